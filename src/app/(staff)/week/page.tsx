import type { Metadata } from "next";
import { isId } from "@/core/shared";
import { useCases } from "@/server";
import { load, staffRights } from "../../_server/run";
import { WeekView } from "./week-view";

export const metadata: Metadata = { title: "Week" };
interface Props {
  readonly searchParams: Promise<{ readonly on?: string; readonly with?: string | string[] }>;
}
export default async function WeekPage({ searchParams }: Props) {
  const { on, with: who } = await searchParams;
  const asked = typeof who === "string" && isId(who) ? { staffId: who } : {};
  return <WeekView week={await load(useCases.week, { day: on, ...asked })} rights={await staffRights()} />;
}
