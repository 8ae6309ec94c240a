import type { Metadata } from "next";
import { isId } from "@/core/shared";
import { useCases } from "@/server";
import { load, staffRights } from "../../_server/run";
import { Warnings } from "../safekeeping";
import { DaySheetView } from "./day-sheet-view";

export const metadata: Metadata = { title: "Day sheet" };
interface Props {
  readonly searchParams: Promise<{ readonly on?: string; readonly with?: string | string[] }>;
}
export default async function DayPage({ searchParams }: Props) {
  const { on, with: who } = await searchParams;
  const asked = typeof who === "string" && isId(who) ? { staffId: who } : {};
  const rights = await staffRights();
  const sheet = await load(useCases.daySheet, { day: on, ...asked });
  const warnings = rights.includes("staff.manage") ? (await load(useCases.safekeeping, {})).warnings : [];
  return <DaySheetView sheet={sheet} rights={rights} above={<Warnings warnings={warnings} />} />;
}
