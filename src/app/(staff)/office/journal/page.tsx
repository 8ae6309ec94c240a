import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { JournalView } from "./journal-view";

export const metadata: Metadata = { title: "Journal" };
export default async function JournalPage() {
  const journal = await load(useCases.journalView, {});
  const rights = await staffRights();
  return (
    <OfficePage rights={rights}>
      <JournalView journal={journal} />
    </OfficePage>
  );
}
