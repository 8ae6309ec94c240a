"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

const words = {
  wrong: "That is not right. Nothing was changed.",
  "too-many": "Too many tries. Wait a quarter of an hour.",
  "not-drawn": "Draw your name in the field, or choose to type it.",
  "no-picture": "No signature was found in this picture. Dark ink on white paper does best.",
  "not-released": "Release your signature first: the time for it is over.",
  "no-mark": "Keep a signature of yours first.",
  "not-your-turn": "It is signed already, or not your turn any more.",
  changed: "Something changed while you read. Read it again, then sign.",
};
export async function keepMarkAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.keepMark, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "Kept." };
}
export async function dropMarkAction(): Promise<FormState> {
  const result = await runAsStaff(useCases.dropMark, {});
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "Taken away. What you signed with it stays signed." };
}
export async function releaseMarkAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.releaseMark, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return {};
}
export async function signAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.signAsStaff, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return {};
}
