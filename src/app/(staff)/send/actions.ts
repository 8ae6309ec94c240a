"use server";
import { redirect } from "next/navigation";
import { refresh, revalidatePath } from "next/cache";
import { useCases } from "@/server";
import type { SignerPick } from "@/core/packet";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../_server/form";
import { runAsStaff } from "../../_server/run";

const words = {
  "no-contact": "There is no way to reach this person. Add an e-mail or a phone first. Nothing was sent.",
  "nobody-there": "One of these people is no longer on file. Load the page again. Nothing was sent.",
  "no-signer": "Somebody who signs by name needs a name and an e-mail address. Nothing was sent.",
  "confirm-signing":
    "Confirm first that electronic signatures are accepted where you file them: under Signatures in Office, or here. Nothing was sent.",
  "not-in-use":
    "One of these questionnaires is no longer in use. Load the page again and choose anew. Nothing was sent.",
};
const some = (sent: FormData, name: string): string | undefined => {
  const v = sent.get(name);
  return typeof v === "string" && v !== "" ? v : undefined;
};
const target = (sent: FormData) => ({ visitId: some(sent, "visitId"), clientId: some(sent, "clientId") });

/** As `PacketFields` writes it. */
function readSigner(text: string): unknown {
  try {
    const { id, who, ...rest } = JSON.parse(text) as SignerPick;
    return {
      who,
      ...rest,
      ...(who === "relation" ? { relationId: id } : {}),
      ...(who === "staff" ? { staffId: id } : {}),
    };
  } catch {
    return {};
  }
}

export async function sendAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.sendPacket, {
    requestId: sent.get("requestId"),
    ...target(sent),
    questionnaireIds: sent.getAll("questionnaireIds"),
    prefillIds: sent.getAll("prefillIds"),
    expiresOn: some(sent, "expiresOn"),
    dueOn: some(sent, "dueOn"),
    language: some(sent, "language"),
    line: some(sent, "line"),
    door: some(sent, "door"),
    leafletIds: sent.getAll("leafletIds"),
    repeats: sent.get("repeats") === "yes",
    by: some(sent, "by") ?? "letter",
    people: sent.getAll("people").map((p) => {
      const [role, relationId] = String(p).split(" ");
      return { role, relationId: relationId || null };
    }),
    signers: sent.getAll("signers").map((one) => readSigner(String(one))),
  });
  if (!result.ok) return formFailure(result.error, words);
  redirect(`/packets/${result.value.packetId}`);
}

export async function confirmSigningAction(): Promise<FormState> {
  const result = await runAsStaff(useCases.confirmSigning, { accepted: true });
  if (!result.ok) return formFailure(result.error);
  refresh();
  return {};
}

export interface TestState extends FormState {
  readonly to?: string;
}
export async function testAction(_: FormState, sent: FormData): Promise<TestState> {
  const result = await runAsStaff(useCases.sendTest, {
    ...target(sent),
    questionnaireIds: sent.getAll("questionnaireIds"),
    expiresOn: some(sent, "expiresOn"),
    language: some(sent, "language"),
    line: some(sent, "line"),
    door: some(sent, "door"),
    holdsChart: some(sent, "holdsChart"),
  });
  return result.ok ? { to: result.value.to } : formFailure(result.error, words);
}

export async function addContactAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.addContact, {
    clientId: sent.get("clientId"),
    email: sent.get("email"),
    phone: sent.get("phone"),
  });
  if (!result.ok)
    return formFailure(result.error, { "has-contact": "There is a contact on file by now. Load the page again." });
  revalidatePath("/(staff)", "layout");
  return {};
}

export interface Preview {
  readonly channel: "email" | "text";
  readonly subject: string;
  readonly body: string;
}
/** The letter as it would be, or why there is none. */
export async function previewAction(input: Readonly<Record<string, string | undefined>>): Promise<Preview | string> {
  const result = await runAsStaff(useCases.previewLetter, input);
  return result.ok ? result.value : (formFailure(result.error, words).message ?? "");
}

export interface AddState extends FormState {
  readonly likely?: readonly {
    readonly id: string;
    readonly name: string;
    readonly birthDate: string | undefined;
    readonly why: readonly string[];
  }[];
}
/** Adds somebody and goes on to sending, or to their visit; who may be here already is shown first. */
export async function addClientAction(_: AddState, sent: FormData): Promise<AddState> {
  const result = await runAsStaff(useCases.addClient, {
    ...Object.fromEntries(sent),
    anyway: sent.get("anyway") === "yes",
  });
  if (!result.ok)
    return result.error.reason === "likely-here" ? { likely: result.error.people } : formFailure(result.error);
  const day = some(sent, "visitOn");
  if (day) redirect(`/visits/new?on=${encodeURIComponent(day)}&client=${result.value.id}`);
  if (sent.get("onward") === "details") redirect(`/people/${result.value.id}/reach`);
  const asked = some(sent, "asked");
  redirect(`/people/${result.value.id}/send${asked ? `?q=${asked}` : ""}`);
}

export interface RelationState extends FormState {
  readonly added?: string;
}
/** Somebody around a client, on the spot. */
export async function addRelationAction(_: FormState, sent: FormData): Promise<RelationState> {
  const result = await runAsStaff(useCases.addRelation, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  revalidatePath("/(staff)", "layout");
  return { added: result.value.id };
}
