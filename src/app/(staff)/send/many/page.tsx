import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { isId } from "@/core/shared";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { ManyView } from "./many-view";

export const metadata: Metadata = { title: "Send to many" };
interface Props {
  readonly searchParams: Promise<{ readonly renew?: string | string[] }>;
}
export default async function ManyPage({ searchParams }: Props) {
  const { renew: asked } = await searchParams;
  const options = await load(useCases.mailingOptions, {});
  const renew = typeof asked === "string" && isId(asked) ? asked : undefined;
  const known = options.questionnaires.some((q) => q.id === renew) ? renew : undefined;
  return (
    <ManyView
      key={known ?? ""}
      options={options}
      first={await load(
        useCases.mailingPeople,
        known ? { renewing: known, about: known, questionnaireIds: [known] } : {},
      )}
      renew={known}
      requestId={randomUUID()}
    />
  );
}
