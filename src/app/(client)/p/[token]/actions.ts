"use server";
import { redirect } from "next/navigation";
import { application, useCases, type DoorError } from "@/server";
import { clientWords } from "@/i18n/client-words";
import { laterBy, type Instant } from "@/core/shared";
import type { FormState } from "@/ui/kit/form";
import { doorCookie, knownCookie, knownPass, linkCookie, setCookie } from "../../../_server/request";
import { runAsStranger } from "../../../_server/run";

type AnyError =
  | DoorError
  | { readonly reason: "invalid"; readonly fields: Readonly<Record<string, string>> }
  | { readonly reason: "not-allowed" }
  | { readonly reason: "busy" }
  | { readonly reason: "not-found" };
function answer(error: AnyError, language: unknown): FormState {
  const t = clientWords("door", String(language));
  switch (error.reason) {
    case "wrong-code":
      return { fields: { code: t("wrong", { left: error.left }) } };
    case "code-expired":
      return { message: t("expired") };
    case "wait":
      return { message: t("wait", { seconds: error.seconds }) };
    case "too-many":
      return { message: t("tooMany") };
    case "locked":
      return { message: t("locked") };
    case "invalid":
      return { fields: Object.fromEntries(Object.keys(error.fields).map((name) => [name, t("sixDigits")])) };
    case "busy":
      return { message: t("busy") };
    case "closed":
    case "not-allowed":
    case "not-found":
      return { message: t("closed") };
  }
}

const rememberedMs = 60 * 24 * 3_600_000;
/** The language the page was switched to, if it was. */
const switched = (sent: FormData): string | undefined =>
  sent.get("switched") === "yes" ? String(sent.get("language")) : undefined;
const suffix = (sent: FormData): string => (switched(sent) ? `?in=${encodeURIComponent(switched(sent)!)}` : "");

export async function sendCodeAction(_: FormState, sent: FormData): Promise<FormState> {
  const token = sent.get("token");
  const result = await runAsStranger(useCases.sendCode, { token, language: switched(sent) });
  if (!result.ok) return answer(result.error, sent.get("language"));
  redirect(`/p/${String(token)}${suffix(sent)}`);
}

type Passed = Awaited<
  ReturnType<
    typeof runAsStranger<
      unknown,
      { packetId: string; passToken: string; expiresAt: Instant; known: boolean },
      DoorError,
      "anyone"
    >
  >
>;
/** In, with a pass for this device; or what was wrong, beside the field it was typed into. */
async function enter(result: Passed, sent: FormData, wrong?: "wrongDetails"): Promise<FormState> {
  if (!result.ok) {
    if (wrong && result.error.reason === "wrong-code")
      return { message: clientWords("door", String(sent.get("language")))(wrong, { left: result.error.left }) };
    return answer(result.error, sent.get("language"));
  }
  const { packetId, passToken, expiresAt, known } = result.value;
  await setCookie(await application(), doorCookie, passToken, `/f/${packetId}`, expiresAt);
  // Kept longer than the pass holds: a device that was let in once is told more of a locked page.
  await setCookie(
    await application(),
    linkCookie,
    passToken,
    `/p/${String(sent.get("token"))}`,
    laterBy(expiresAt, rememberedMs),
  );
  if (known) await setCookie(await application(), knownCookie, passToken, "/p", expiresAt);
  redirect(`/f/${packetId}`);
}
export const checkCodeAction = async (_: FormState, sent: FormData): Promise<FormState> =>
  enter(
    await runAsStranger(useCases.checkCode, {
      token: sent.get("token"),
      code: sent.get("code"),
      language: switched(sent),
    }),
    sent,
  );
export const checkDetailsAction = async (_: FormState, sent: FormData): Promise<FormState> =>
  enter(
    await runAsStranger(useCases.checkDetails, {
      token: sent.get("token"),
      birthDate: sent.get("birthDate"),
      word: sent.get("word"),
      language: switched(sent),
    }),
    sent,
    "wrongDetails",
  );
export const openFreelyAction = async (_: FormState, sent: FormData): Promise<FormState> =>
  enter(await runAsStranger(useCases.openFreely, { token: sent.get("token"), language: switched(sent) }), sent);
export const openKnownAction = async (_: FormState, sent: FormData): Promise<FormState> =>
  enter(
    await runAsStranger(useCases.openKnown, {
      token: sent.get("token"),
      language: switched(sent),
      known: await knownPass(),
    }),
    sent,
  );
