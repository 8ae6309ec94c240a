import type { Metadata } from "next";
import { isId } from "@/core/shared";
import { useCases } from "@/server";
import { load, staffRights } from "../../_server/run";
import { DaySheetView } from "./day-sheet-view";

export const metadata: Metadata = { title: "Day sheet" };
interface Props {
  readonly searchParams: Promise<{ readonly on?: string; readonly with?: string | string[] }>;
}
export default async function DayPage({ searchParams }: Props) {
  const { on, with: who } = await searchParams;
  const asked = typeof who === "string" && isId(who) ? { staffId: who } : {};
  return <DaySheetView sheet={await load(useCases.daySheet, { day: on, ...asked })} rights={await staffRights()} />;
}
