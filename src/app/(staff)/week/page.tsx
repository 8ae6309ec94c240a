import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../_server/run";
import { WeekView } from "./week-view";

export const metadata: Metadata = { title: "Week" };
export default async function WeekPage({ searchParams }: { readonly searchParams: Promise<{ readonly on?: string }> }) {
  const { on } = await searchParams;
  return <WeekView week={await load(useCases.week, { day: on })} />;
}
