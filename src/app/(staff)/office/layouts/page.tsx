import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { NoteLayouts } from "./note-layouts";

export const metadata: Metadata = { title: "Note layouts" };
export default async function LayoutsPage() {
  const layouts = await load(useCases.noteLayouts, {});
  const rights = await staffRights();
  return (
    <OfficePage rights={rights}>
      <NoteLayouts {...layouts} fresh={randomUUID()} />
    </OfficePage>
  );
}
