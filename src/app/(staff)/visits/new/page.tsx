import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { isDay } from "@/core/scheduling";
import { isId } from "@/core/shared";
import { load, staffRights } from "../../../_server/run";
import { NewVisitView } from "./new-visit-view";

export const metadata: Metadata = { title: "Make a visit" };
interface Props {
  readonly searchParams: Promise<{ readonly on?: string | string[]; readonly client?: string | string[] }>;
}
export default async function NewVisitPage({ searchParams }: Props) {
  const { on, client } = await searchParams;
  const choices = await load(
    useCases.visitChoices,
    typeof client === "string" && isId(client) ? { clientId: client } : {},
  );
  return (
    <NewVisitView
      key={typeof client === "string" ? client : ""}
      choices={choices}
      requestId={randomUUID()}
      newClientId={randomUUID()}
      day={typeof on === "string" && isDay(on) ? on : choices.today}
      may={await staffRights()}
    />
  );
}
