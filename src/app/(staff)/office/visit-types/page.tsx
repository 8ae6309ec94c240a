import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { VisitTypesView } from "./visit-types-view";

export const metadata: Metadata = { title: "Kinds of visit" };
export default async function VisitTypesPage() {
  return (
    <OfficePage rights={await staffRights()}>
      <VisitTypesView {...await load(useCases.visitTypes, {})} requestId={randomUUID()} />
    </OfficePage>
  );
}
