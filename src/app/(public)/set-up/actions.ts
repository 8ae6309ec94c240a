"use server";
import { redirect } from "next/navigation";
import { fileProblemWords } from "@/core/files";
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
  const { logo, ...typed } = Object.fromEntries(sent);
  const picture =
    logo instanceof File && logo.size > 0
      ? { logo: new Uint8Array(await logo.arrayBuffer()), logoName: logo.name }
      : {};
  const result = await runAsStranger(useCases.setUp, { ...typed, ...picture });
  if (!result.ok) {
    if (result.error.reason === "refused") return { fields: { logo: fileProblemWords[result.error.why] } };
    if (result.error.reason === "no-picture") return { fields: { logo: "That is no PNG and no JPEG." } };
    if (result.error.reason === "large") return { fields: { logo: "This picture is larger than 300 KB." } };
    return formFailure(result.error, words);
  }
  await setCookie(await application(), staffCookie, result.value.token, "/");
  redirect("/day");
}
