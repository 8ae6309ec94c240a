"use server";
import type { PublicKeyCredentialCreationOptionsJSON, RegistrationResponseJSON } from "@simplewebauthn/browser";
import { refresh } from "next/cache";
import { redirect } from "next/navigation";
import { fileProblemWords } from "@/core/files";
import { useCases, type JournalProgress } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../_server/form";
import { runAsStaff } from "../../_server/run";

const words = {
  wrong: "That was not right. Nothing was changed.",
  "too-many": "Too many tries. Wait a quarter of an hour, then try again.",
  "already-on": "The second factor is on already.",
  common: "This password would be guessed early. Take some words that nobody connects with you. Nothing was changed.",
};

export async function addChartFieldAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.addChartField, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect("/office/fields");
}
/** The next rows of the journal, from where it was walked last or after `from`. */
export async function checkJournalAction(from?: number): Promise<JournalProgress | undefined> {
  const result = await runAsStaff(useCases.checkJournal, { from });
  return result.ok ? result.value : undefined;
}
export async function singleKeysAction(on: boolean): Promise<void> {
  await runAsStaff(useCases.setSingleKeys, { on });
  refresh();
}
export async function saveDefaultsAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.savePracticeDefaults, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect("/office");
}
export async function saveFactsAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.savePracticeFacts, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect("/office");
}
export async function saveLogoAction(_: FormState, sent: FormData): Promise<FormState> {
  const file = sent.get("file");
  if (!(file instanceof File)) return { message: "Choose a picture." };
  const result = await runAsStaff(useCases.saveLogo, {
    requestId: sent.get("requestId"),
    name: file.name,
    bytes: new Uint8Array(await file.arrayBuffer()),
  });
  if (!result.ok) {
    if (result.error.reason === "refused")
      return { message: `${file.name} was not taken. Nothing was stored. ${fileProblemWords[result.error.why]}` };
    return formFailure(result.error, {
      "no-picture": "That is no PNG and no JPEG. Nothing was stored.",
      large: "This picture is larger than 300 KB. Make it smaller. Nothing was stored.",
    });
  }
  redirect("/office");
}
export async function removeLogoAction(): Promise<FormState> {
  const result = await runAsStaff(useCases.removeLogo, {});
  if (!result.ok) return formFailure(result.error);
  redirect("/office");
}
export async function changePasswordAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.changePassword, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, { ...words, wrong: "Your password until now was not right." });
  return { done: "Your password was changed. Everywhere else you are signed out." };
}
export async function signOutElsewhereAction(): Promise<FormState> {
  const result = await runAsStaff(useCases.signOutElsewhere, {});
  if (!result.ok) return formFailure(result.error);
  redirect("/office");
}
export async function saveDoorAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.saveDoorPolicy, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect("/office/door");
}
export async function savePagesAction(_: FormState, sent: FormData): Promise<FormState> {
  const byLanguage = (what: string): Record<string, string> =>
    Object.fromEntries(
      [...sent].flatMap(([name, text]) =>
        name.startsWith(`${what} `) && text !== "" ? [[name.slice(what.length + 1), String(text)]] : [],
      ),
    );
  const result = await runAsStaff(useCases.savePagePolicy, {
    look: sent.get("look") === "true",
    oneByOne: sent.get("oneByOne") === "true",
    finishAddress: sent.get("finishAddress") ?? "",
    clientNamed: sent.get("clientNamed") ?? undefined,
    finish: byLanguage("finish"),
    support: byLanguage("support"),
  });
  if (!result.ok) return formFailure(result.error);
  redirect("/office/pages");
}
export async function renameChartFieldAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.renameChartField, { key: sent.get("key"), label: sent.get("label") });
  if (!result.ok) return formFailure(result.error);
  redirect("/office/fields");
}
export async function retireChartFieldAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.retireChartField, {
    key: sent.get("key"),
    retired: sent.get("retired") === "true",
  });
  if (!result.ok) return formFailure(result.error);
  redirect("/office/fields");
}

export interface SetUp {
  readonly secret: string;
  readonly uri: string;
  readonly svg: string;
}
export async function startSecondFactorAction(): Promise<SetUp | undefined> {
  const result = await runAsStaff(useCases.startSecondFactor, {});
  return result.ok ? result.value : undefined;
}
export interface CodesState extends FormState {
  /** Shown once. */
  readonly codes?: readonly string[];
}
export async function confirmSecondFactorAction(_: CodesState, sent: FormData): Promise<CodesState> {
  const result = await runAsStaff(useCases.confirmSecondFactor, { code: sent.get("code") });
  if (!result.ok) return formFailure(result.error, words);
  if (result.value) return { codes: result.value.codes };
  redirect("/office");
}
export interface PasskeyOffer {
  readonly options?: PublicKeyCredentialCreationOptionsJSON;
  readonly message?: string;
}
export async function startPasskeyAction(): Promise<PasskeyOffer> {
  const result = await runAsStaff(useCases.startPasskey, {});
  return result.ok
    ? { options: result.value }
    : formFailure(result.error, { "too-many-keys": "Ten passkeys are enough. Take one off first." });
}
export async function addPasskeyAction(name: string, response: RegistrationResponseJSON): Promise<CodesState> {
  const result = await runAsStaff(useCases.addPasskey, { name, response });
  if (!result.ok) return formFailure(result.error, words);
  return result.value ? { codes: result.value.codes } : {};
}
export async function removePasskeyAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.removePasskey, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  redirect("/office");
}
export async function renewCodesAction(_: CodesState, sent: FormData): Promise<CodesState> {
  const result = await runAsStaff(useCases.renewRecoveryCodes, { password: sent.get("password") });
  return result.ok ? { codes: result.value.codes } : formFailure(result.error, words);
}
export async function endSecondFactorAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.endSecondFactor, { password: sent.get("password") });
  if (!result.ok) return formFailure(result.error, words);
  redirect("/office");
}
export async function setChartLayoutAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.setChartLayout, JSON.parse(String(sent.get("layout"))) as object);
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Charts are laid out so from now on." };
}

export async function keepLayoutAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.keepLayout, JSON.parse(String(sent.get("layout"))));
  if (!result.ok)
    return formFailure(result.error, {
      "layout-moved": "A colleague changed this layout meanwhile. Nothing was kept; open it again.",
    });
  redirect("/office/layouts");
}
export async function dropLayoutAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.dropLayout, { id: sent.get("id") });
  if (!result.ok) return formFailure(result.error);
  redirect("/office/layouts");
}
