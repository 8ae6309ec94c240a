"use server";
import { useCases } from "@/server";
import type { ClientIdentity } from "@/core/chart";
import type { Instant } from "@/core/shared";
import { leaveStaff, load, staffRights, runWhileTyping } from "../_server/run";

export async function signOutAction(): Promise<void> {
  await leaveStaff("/sign-in");
}

/** Gives until when; undefined where the session is over already. */
export async function stayAction(): Promise<Instant | undefined> {
  const result = await runWhileTyping(useCases.staySignedIn, {});
  return result.ok ? result.value.until : undefined;
}

export interface Findables {
  readonly people: readonly { readonly href: string; readonly name: string; readonly identity: ClientIdentity }[];
  readonly questionnaires: readonly { readonly href: string; readonly title: string }[];
}
/** Whom and what this member of staff may look for, each with its page. */
export async function findablesAction(): Promise<Findables> {
  const rights = await staffRights();
  const people = rights.includes("people.read") ? await load(useCases.people, {}) : [];
  const library = rights.includes("library.read") ? (await load(useCases.library, {})).lines : [];
  return {
    people: people.map(({ id, name, identity }) => ({ href: `/people/${id}`, name, identity })),
    questionnaires: library.map(({ id, title }) => ({ href: `/library/${id}`, title })),
  };
}
