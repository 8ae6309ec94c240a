import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { ManyView } from "./many-view";

export const metadata: Metadata = { title: "Send to many" };
export default async function ManyPage() {
  return (
    <ManyView
      options={await load(useCases.mailingOptions, {})}
      first={await load(useCases.mailingPeople, {})}
      requestId={randomUUID()}
    />
  );
}
