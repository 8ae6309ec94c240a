"use server";
import { redirect } from "next/navigation";
import { application, useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../_server/form";
import { setCookie, staffCookie } from "../../_server/request";
import { runAsStranger } from "../../_server/run";

const words = {
  "wrong-code": "This is not the code on the console. It stands there in three groups of four.",
  common: "This password would be guessed early. Take some words that nobody connects with you.",
  "not-allowed": "This practice was set up already. Sign in instead.",
};
export async function setUpAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStranger(useCases.setUp, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  await setCookie(await application(), staffCookie, result.value.token, "/");
  redirect("/day");
}
