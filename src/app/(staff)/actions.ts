"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { Instant } from "@/core/shared";
import type { People } from "@/usecases/charting";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../_server/form";
import { leaveStaff, load, runAsStaff, runWhileTyping, staffRights } from "../_server/run";

export async function signOutAction(): Promise<void> {
  await leaveStaff("/sign-in");
}

/** Gives until when; undefined where the session is over already. */
export async function stayAction(): Promise<Instant | undefined> {
  const result = await runWhileTyping(useCases.staySignedIn, {});
  return result.ok ? result.value.until : undefined;
}

export interface Findables {
  readonly questionnaires: readonly { readonly href: string; readonly title: string }[];
}
/** What this member of staff may look for besides people, each with its page. */
export async function findablesAction(): Promise<Findables> {
  const rights = await staffRights();
  const library = rights.includes("library.read") ? (await load(useCases.library, {})).lines : [];
  return { questionnaires: library.map(({ id, title }) => ({ href: `/library/${id}`, title })) };
}

export interface PeopleAsked {
  readonly sought: string;
  readonly archived?: boolean;
  readonly from?: number;
  readonly most?: number;
}
/** People by what was typed; nothing for whoever may not see them, or is signed out by now: that is not nobody. */
export async function findPeopleAction(asked: PeopleAsked): Promise<People | undefined> {
  const result = await runWhileTyping(useCases.people, asked);
  return result.ok ? result.value : undefined;
}

/** What was done about an alert, which ends it. */
export async function closeAlertAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.closeAlert, { alertId: sent.get("alertId"), done: sent.get("done") });
  if (!result.ok)
    return result.error.reason === "closed-already"
      ? {
          message: `${result.error.by} closed this alert meanwhile. What you typed was not added; it still stands here.`,
        }
      : formFailure(result.error);
  refresh();
  return { done: "Closed." };
}
