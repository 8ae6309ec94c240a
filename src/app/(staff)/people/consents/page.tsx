import type { Metadata } from "next";
import { consentStates, type ConsentState } from "@/core/consent";
import { isId } from "@/core/shared";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { ConsentsView } from "./consents-view";

export const metadata: Metadata = { title: "Consent register" };
interface Props {
  readonly searchParams: Promise<Readonly<Record<string, string | string[] | undefined>>>;
}
export default async function ConsentsPage({ searchParams }: Props) {
  const asked = await searchParams;
  const text = typeof asked["of"] === "string" && isId(asked["of"]) ? asked["of"] : undefined;
  const state = consentStates.find((one): one is ConsentState => one === asked["state"]);
  const from = Number(asked["from"]);
  const wish = {
    ...(text ? { questionnaireId: text } : {}),
    ...(state ? { state } : {}),
    ...(Number.isInteger(from) && from > 0 ? { from } : {}),
  };
  return (
    <ConsentsView
      register={await load(useCases.consentRegister, wish)}
      of={text}
      state={state}
      rights={await staffRights()}
    />
  );
}
