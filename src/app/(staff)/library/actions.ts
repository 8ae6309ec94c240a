"use server";
import { randomUUID } from "node:crypto";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import { fileProblemWords } from "@/core/files";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../_server/form";
import { runAsStaff } from "../../_server/run";

export interface ImportState extends FormState {
  readonly problems?: readonly { readonly path: string; readonly linkId?: string; readonly problem: string }[];
  readonly fileName?: string;
  /** The same questionnaire is here with other content: the file waits in the page until it is said what to do. */
  readonly here?: {
    readonly title: string;
    readonly text: string;
    readonly draftBy: string | undefined;
    readonly mayChange: boolean;
  };
}
const largest = 20 * 1024 * 1024;

export async function importAction(_: ImportState, sent: FormData): Promise<ImportState> {
  const file = sent.get("file");
  if (!(file instanceof File) || file.size === 0) return { message: "Choose a file first." };
  const fileName = file.name;
  if (file.size > largest)
    return {
      fileName,
      problems: [{ path: "", problem: "The file is larger than 20 MB. A questionnaire holds text only." }],
    };
  return takeIn(fileName, await file.text(), undefined);
}

/** What to do with a questionnaire that is here already: a new version of it, or a copy beside it. */
export async function takeInAsAction(_: FormState, sent: FormData): Promise<ImportState> {
  return takeIn(String(sent.get("fileName")), String(sent.get("text")), String(sent.get("as")));
}

async function takeIn(fileName: string, text: string, as: string | undefined): Promise<ImportState> {
  const result = await runAsStaff(useCases.importQuestionnaire, { text, ...(as === undefined ? {} : { as }) });
  if (!result.ok) {
    const { error } = result;
    if (error.reason === "here-already")
      return { fileName, here: { title: error.title, text, draftBy: error.draftBy, mayChange: error.mayChange } };
    return error.reason === "bad-file" ? { fileName, problems: error.problems } : formFailure(error);
  }
  redirect(`/library/${result.value.id}${result.value.already ? "?already" : ""}`);
}

/** A worksheet of a PDF; the refusal says why. */
export async function worksheetAction(_: FormState, sent: FormData): Promise<FormState> {
  const file = sent.get("file");
  if (!(file instanceof File)) return { message: "Choose a file first." };
  const result = await runAsStaff(useCases.newWorksheet, {
    requestId: randomUUID(),
    name: file.name,
    bytes: new Uint8Array(await file.arrayBuffer()),
  });
  if (!result.ok)
    return result.error.reason === "refused"
      ? { message: `${file.name} was not taken. Nothing was stored. ${fileProblemWords[result.error.why]}` }
      : formFailure(result.error);
  redirect(`/library/${result.value.id}`);
}

export async function newQuestionnaireAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.newQuestionnaire, {
    requestId: sent.get("requestId"),
    title: sent.get("title"),
    kind: sent.get("kind"),
  });
  if (!result.ok) return formFailure(result.error);
  redirect(`/library/${result.value.id}/compose`);
}

export async function bringStartersAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.bringStarters, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect("/library");
}

export async function duplicateAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.duplicate, { requestId: sent.get("requestId"), id: sent.get("id") });
  if (!result.ok) return formFailure(result.error);
  redirect(`/library/${result.value.id}/compose`);
}

/** Retire, bring back, throw a draft away: then the page as it is now. */
export async function stateAction(_: FormState, sent: FormData): Promise<FormState> {
  const id = String(sent.get("id"));
  const todo = { retire: useCases.retire, drop: useCases.dropDraft, use: useCases.putInUse }[String(sent.get("do"))];
  if (!todo) return { message: "Nothing was changed." };
  const result = await runAsStaff(todo as typeof useCases.retire, { id });
  if (!result.ok)
    return formFailure(result.error, {
      proof: "Proof found errors in the draft. Open in the Composer to mend them. It was not put in use.",
    });
  redirect(`/library/${id}`);
}

export async function removeDraftAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.removeDraft, { id: sent.get("id") });
  if (!result.ok)
    return formFailure(result.error, { "was-in-use": "This was in use once, so it is kept. You can retire it." });
  redirect("/library");
}

export async function shareAction(_: FormState, sent: FormData): Promise<FormState> {
  const id = String(sent.get("id"));
  const shares = [...sent].flatMap(([name, may]) =>
    name.startsWith("may:") ? [{ staffId: name.slice(4), may: String(may) }] : [],
  );
  const result = await runAsStaff(useCases.shareQuestionnaire, { id, everyone: sent.get("everyone"), shares });
  if (!result.ok) return formFailure(result.error);
  redirect(`/library/${id}`);
}
