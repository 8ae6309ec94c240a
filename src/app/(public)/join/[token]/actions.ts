"use server";
import { redirect } from "next/navigation";
import { application, useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { halfwayCookie, keepDevice, setCookie, staffCookie } from "../../../_server/request";
import { runAsStranger } from "../../../_server/run";

const words = {
  common: "This password would be guessed early. Take some words that nobody connects with you. Nothing was changed.",
  "not-found": "This link was used already, or its time is over. Ask for a new one; nothing was changed.",
};
export async function takeTicketAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStranger(useCases.takeTicket, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  const { token, needsCode, device } = result.value;
  await keepDevice(device);
  await setCookie(await application(), needsCode ? halfwayCookie : staffCookie, token, "/");
  redirect(needsCode ? "/sign-in/code" : "/day");
}
