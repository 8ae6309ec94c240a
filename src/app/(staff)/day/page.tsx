import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../_server/run";
import { DaySheetView } from "./day-sheet-view";

export const metadata: Metadata = { title: "Day sheet" };
export default async function DayPage({ searchParams }: { readonly searchParams: Promise<{ readonly on?: string }> }) {
  const { on } = await searchParams;
  return <DaySheetView sheet={await load(useCases.daySheet, { day: on })} />;
}
