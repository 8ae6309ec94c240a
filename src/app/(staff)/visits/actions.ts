"use server";
import { redirect } from "next/navigation";
import { application, useCases, type NotFree } from "@/server";
import { dayIn } from "@/core/scheduling";
import { nearMoment } from "@/i18n/moments";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../_server/form";
import { runAsStaff, runWhileTyping } from "../../_server/run";

type Failure = NotFree | { readonly reason: string; readonly fields?: Readonly<Record<string, string>> };
const isNotFree = (error: Failure): error is NotFree => error.reason === "not-free";
/** Which time is taken already, and by what. */
async function visitFailure(error: Failure): Promise<FormState> {
  if (!isNotFree(error))
    return formFailure(error, {
      "not-theirs": "They do not hold this kind of visit. Choose somebody else, or another kind. Nothing was changed.",
    });
  const app = await application();
  const practice = await app.practice();
  const frame = { locale: practice?.locale ?? "en-GB", zone: practice?.zone ?? "UTC", now: app.ports.clock.now() };
  const who = error.taken === "room" ? "The room is taken" : "They have another visit";
  return { message: `${who} at this time, ${nearMoment(error.at, frame)}. Nothing was changed.` };
}
async function dayPath(day: unknown): Promise<string> {
  const app = await application();
  const today = dayIn(app.ports.clock.now(), (await app.practice())?.zone ?? "UTC");
  return typeof day === "string" && day !== today ? `/day?on=${encodeURIComponent(day)}` : "/day";
}
export async function bookVisitAction(_: FormState, sent: FormData): Promise<FormState> {
  const input = Object.fromEntries(sent);
  const result = await runAsStaff(useCases.bookVisit, input);
  if (!result.ok) return visitFailure(result.error);
  redirect(await dayPath(input["day"]));
}
export async function moveVisitAction(_: FormState, sent: FormData): Promise<FormState> {
  const input = Object.fromEntries(sent);
  const result = await runAsStaff(useCases.moveVisit, input);
  if (!result.ok) return visitFailure(result.error);
  redirect(await dayPath(input["day"]));
}
export async function cancelVisitAction(_: FormState, sent: FormData): Promise<FormState> {
  const visitId = sent.get("visitId");
  const result = await runAsStaff(useCases.cancelVisit, { visitId, by: sent.get("by") });
  if (!result.ok) return visitFailure(result.error);
  redirect(`/visits/${encodeURIComponent(String(visitId))}`);
}
export async function restoreVisitAction(_: FormState, sent: FormData): Promise<FormState> {
  const visitId = sent.get("visitId");
  const result = await runAsStaff(useCases.restoreVisit, { visitId });
  if (!result.ok) return visitFailure(result.error);
  redirect(`/visits/${encodeURIComponent(String(visitId))}`);
}

/** Gives whether it was kept. */
export async function checkVisitAction(input: {
  readonly visitId: string;
  readonly ticked: readonly string[];
}): Promise<boolean> {
  return (await runWhileTyping(useCases.checkVisit, input)).ok;
}
