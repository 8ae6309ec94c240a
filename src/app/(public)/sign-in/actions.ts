"use server";
import { redirect } from "next/navigation";
import type { AuthenticationResponseJSON, PublicKeyCredentialRequestOptionsJSON } from "@simplewebauthn/browser";
import { application, useCases, type SignedIn, type SignInError } from "@/server";
import { instantMs } from "@/core/shared";
import type { FormState } from "@/ui/kit/form";
import {
  deviceCookie,
  dropCookie,
  halfwayCookie,
  keepDevice,
  readCookie,
  setCookie,
  staffCookie,
} from "../../_server/request";
import { runAsStranger } from "../../_server/run";

/** How long, not until when: whoever is not signed in yet has no time zone here. */
async function tooMany({ until }: Extract<SignInError, { readonly reason: "too-many" }>): Promise<string> {
  if (until === undefined) return "Too many tries. Wait a quarter of an hour, then try again.";
  const seconds = (instantMs(until) - instantMs((await application()).ports.clock.now())) / 1000;
  const wait = seconds <= 60 ? "a minute" : `${Math.ceil(seconds / 60)} minutes`;
  return `Too many tries. Wait ${wait}, then try again. On a device you signed in on before you need not wait.`;
}

export async function signInAction(_: FormState, sent: FormData): Promise<FormState> {
  const device = await readCookie(deviceCookie);
  const result = await runAsStranger(useCases.signIn, { ...Object.fromEntries(sent), device });
  if (!result.ok) {
    const { error } = result;
    if (error.reason === "invalid") return { fields: error.fields };
    return {
      message:
        error.reason === "too-many"
          ? await tooMany(error)
          : "E-mail and password do not go together. Nothing was changed.",
    };
  }
  const app = await application();
  await keepDevice(result.value.device);
  await setCookie(app, result.value.needsCode ? halfwayCookie : staffCookie, result.value.token, "/");
  redirect(result.value.needsCode ? "/sign-in/code" : "/day");
}

export async function codeAction(_: FormState, sent: FormData): Promise<FormState> {
  const token = await readCookie(halfwayCookie);
  if (token === undefined) redirect("/sign-in");
  const result = await runAsStranger(useCases.verifySecondFactor, { code: sent.get("code"), token });
  if (!result.ok) {
    const { error } = result;
    if (error.reason === "invalid") return { fields: error.fields };
    return {
      message:
        error.reason === "too-many"
          ? await tooMany(error)
          : "This code is wrong, too old, or was used before. Wait for the next one in your app, or take another recovery code.",
    };
  }
  return letIn(result.value);
}
/** Both factors were right. */
async function letIn({ token, device }: Omit<SignedIn, "needsCode">): Promise<never> {
  await dropCookie(halfwayCookie);
  await keepDevice(device);
  await setCookie(await application(), staffCookie, token, "/");
  redirect("/day");
}

export interface PasskeyAsked {
  readonly options?: PublicKeyCredentialRequestOptionsJSON;
  readonly message?: string;
}
const beganLongAgo = "You began to sign in too long ago. Begin anew.";
export async function askPasskeyAction(): Promise<PasskeyAsked> {
  const token = await readCookie(halfwayCookie);
  if (token === undefined) redirect("/sign-in");
  const result = await runAsStranger(useCases.askPasskey, { token });
  if (result.ok) return { options: result.value };
  return { message: result.error.reason === "too-many" ? await tooMany(result.error) : beganLongAgo };
}
export async function passkeyAction(response: AuthenticationResponseJSON): Promise<FormState> {
  const token = await readCookie(halfwayCookie);
  if (token === undefined) redirect("/sign-in");
  const result = await runAsStranger(useCases.verifyPasskey, { token, response });
  return result.ok
    ? letIn(result.value)
    : { message: "This passkey is not one of yours here. Try again, or take another way below." };
}
