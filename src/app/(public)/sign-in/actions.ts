"use server";
import { cookies } from "next/headers";
import { redirect } from "next/navigation";
import { application, useCases, type SignInError } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { halfwayCookie, setCookie, staffCookie } from "../../_server/request";
import { runAsStranger } from "../../_server/run";

const words: Record<SignInError["reason"], string> = {
  wrong: "E-mail and password do not go together. Nothing was changed.",
  "too-many": "Too many tries. Wait a quarter of an hour, then try again.",
};

export async function signInAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStranger(useCases.signIn, Object.fromEntries(sent));
  if (!result.ok) {
    const { error } = result;
    if (error.reason === "invalid") return { fields: error.fields };
    return { message: error.reason === "too-many" ? words["too-many"] : words.wrong };
  }
  const app = await application();
  await setCookie(app, result.value.needsCode ? halfwayCookie : staffCookie, result.value.token, "/");
  redirect(result.value.needsCode ? "/sign-in/code" : "/day");
}

export async function codeAction(_: FormState, sent: FormData): Promise<FormState> {
  const jar = await cookies();
  const token = jar.get(halfwayCookie)?.value;
  if (token === undefined) redirect("/sign-in");
  const result = await runAsStranger(useCases.verifySecondFactor, { code: sent.get("code"), token });
  if (!result.ok) {
    const { error } = result;
    if (error.reason === "invalid") return { fields: error.fields };
    return {
      message:
        error.reason === "too-many"
          ? words["too-many"]
          : "This code is wrong, too old, or was used before. Wait for the next one in your app.",
    };
  }
  jar.delete(halfwayCookie);
  await setCookie(await application(), staffCookie, result.value.token, "/");
  redirect("/day");
}
