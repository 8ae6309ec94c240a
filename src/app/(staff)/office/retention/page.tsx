import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { RetentionView } from "./retention-view";

export const metadata: Metadata = { title: "Keeping and erasing" };
export default async function RetentionPage() {
  const retention = await load(useCases.retention, {});
  const rights = await staffRights();
  return (
    <OfficePage rights={rights}>
      <RetentionView key={JSON.stringify(retention.rules)} retention={retention} />
    </OfficePage>
  );
}
