"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

const page = "/office/staff";
const words = {
  "own-first": "Set up your own second factor first, under Practice and sign-in. Nothing was changed.",
  "known-address": "Somebody has this e-mail address already. Nobody was invited.",
  "last-owner":
    "The practice would have no owner who can sign in. Make somebody else an owner first; nothing was changed.",
  "work-left": "They have clients, packets or visits. Choose who takes them on; nothing was changed.",
  "not-free":
    "The colleague has no time for one of these visits. Move it first, or choose somebody else; nothing was changed.",
};
export async function inviteAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.inviteColleague, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  redirect(page);
}
export async function inviteAgainAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.inviteAgain, { staffId: sent.get("staffId") });
  if (!result.ok) return formFailure(result.error, words);
  return { done: "A new invitation is on its way. The one before no longer works." };
}
export async function changeColleagueAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.changeColleague, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  redirect(page);
}
export async function leaveAction(_: FormState, sent: FormData): Promise<FormState> {
  const toId = sent.get("toId");
  const result = await runAsStaff(useCases.leavePractice, {
    staffId: sent.get("staffId"),
    ...(toId === "" || toId === null ? {} : { toId }),
  });
  if (!result.ok) return formFailure(result.error, words);
  redirect(page);
}
export async function comeBackAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.comeBack, { staffId: sent.get("staffId") });
  if (!result.ok) return formFailure(result.error, words);
  redirect(page);
}
export async function setRightsAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.setRights, {
    role: sent.get("role"),
    rights: String(sent.get("rights")).split(" ").filter(Boolean),
    ...(sent.get("anew") === "yes" ? { anew: "yes" } : {}),
  });
  if (!result.ok) return formFailure(result.error, words);
  redirect(page);
}
export async function requireSecondFactorAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.requireSecondFactor, { on: sent.get("on") === "true" });
  if (!result.ok) return formFailure(result.error, words);
  redirect(page);
}
