import type { AnswerChange, AnswerValue } from "../src/core/questionnaire";
import { allQuestions, readChange } from "../src/core/questionnaire";
import { placesBeforeReturn, signedText, signingPlan, textDigest } from "../src/core/signing";
import { clientActor, run, useCases, type Application } from "../src/server";
import { repositories } from "../src/db/repositories";
import type { Id } from "../src/core/shared";
import type { FillView } from "../src/usecases/filling";
import type { ClientActor } from "../src/usecases/kit";

/** Everybody from an address of their own (RFC 3849), so that nobody is kept out for what others do. */
const fromOwn = (id: string) => ({ address: `2001:db8::${id.slice(0, 4)}`, device: "demo" });
type Done<T> = { ok: true; value: T } | { ok: false; error: unknown };
export function must<T>(result: Done<T>): T {
  if (!result.ok) throw new Error(`The walk stopped: ${JSON.stringify(result.error)}`);
  return result.value;
}

/**
 * A client's answers for one questionnaire: yes/no, numbers, texts, or an option's words; `rows` for repeating groups.
 */
export interface Filled {
  readonly values: Readonly<Record<string, boolean | number | string>>;
  readonly rows?: Readonly<Record<string, readonly Readonly<Record<string, string>>[]>>;
}

/** Opens a personal link by the code that its letter's page asks for. */
export async function openDoor(app: Application, packetId: Id<"Packet">): Promise<ClientActor> {
  const repo = repositories(app.database.db, app.ports.sealer);
  const letter = async (purpose: "packet" | "code") =>
    (await repo.outbox.ofPacket(packetId)).findLast((message) => message.purpose === purpose)!;
  const token = /\/p\/([\w-]+)/.exec((await letter("packet")).body)![1]!;
  const from = fromOwn(packetId);
  const stranger = { kind: "stranger" as const, ...from };
  must(await run(app, useCases.sendCode, stranger, { token }));
  const code = /\b\d{6}\b/.exec((await letter("code")).body)![0];
  const { passToken } = must(await run(app, useCases.checkCode, stranger, { token, code }));
  const actor = await clientActor(app, packetId, passToken, from);
  if (actor.kind !== "client") throw new Error("The door pass did not hold.");
  return actor;
}

/**
 * Walks through a personal link as the client would: door, code, answers, signature, return. Stops before returning if
 * asked to.
 */
export async function walkThrough(
  app: Application,
  packetId: Id<"Packet">,
  fill: Readonly<Record<string, Filled>>,
  signer: string | undefined,
  finish: boolean,
): Promise<void> {
  const actor = await openDoor(app, packetId);
  await fillParts(app, actor, fill, signer);
  if (finish) must(await run(app, useCases.returnPacket, actor, {}));
}

/** Saves a client's answers to every questionnaire of the packet that `fill` names, and signs if a signer is given. */
export async function fillParts(
  app: Application,
  actor: ClientActor,
  fill: Readonly<Record<string, Filled>>,
  signer: string | undefined,
): Promise<void> {
  const repo = repositories(app.database.db, app.ports.sealer);
  for (const part of await repo.packets.parts(actor.packetId)) {
    const questionnaire = await repo.versions.definition(part.versionId);
    const filled = fill[questionnaire.name ?? ""];
    if (!filled) continue;
    const questions = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
    const value = (linkId: string, given: boolean | number | string): AnswerValue => {
      const question = questions.get(linkId)!;
      const option = question.options.find((o) => o.value.type === "coding" && o.value.value.display === given);
      if (option) return option.value;
      if (typeof given === "boolean") return { type: "boolean", value: given };
      if (typeof given === "number") return { type: question.type === "integer" ? "integer" : "decimal", value: given };
      return question.type === "date" ? { type: "date", value: given } : { type: "string", value: given };
    };
    const changes: AnswerChange[] = Object.entries(filled.values).map(([key, v]) => ({
      kind: "values",
      key,
      values: [value(key, v)],
    }));
    for (const [group, rows] of Object.entries(filled.rows ?? {})) {
      changes.push({ kind: "rows", key: group, rows: rows.map((_, i) => `r${i}`) });
      rows.forEach((row, i) =>
        Object.entries(row).forEach(([linkId, v]) =>
          changes.push({ kind: "values", key: `${group}:r${i}/${linkId}`, values: [value(linkId, v)] }),
        ),
      );
    }
    changes.forEach((c) => must(readChange(questionnaire, c)));
    must(await run(app, useCases.saveAnswers, actor, { partId: part.id, changes }));
    if (signer === undefined) continue;
    const { signsAs, age } = must(await run(app, useCases.fillView, actor, {}));
    const plan = signingPlan(questionnaire, await repo.answers.ofPart(part.id), age);
    for (const { place } of placesBeforeReturn(plan, [signsAs])) {
      const digest = digestAt(must(await run(app, useCases.fillView, actor, {})), part.id, place);
      must(await run(app, useCases.signPart, actor, { partId: part.id, place, name: signer, digest, agreed: true }));
    }
  }
}
/** The digest of what somebody has before them at a place, as their page works it out. */
export function digestAt({ parts, language }: FillView, partId: string, place: string): string {
  const part = parts.find((one) => one.id === partId);
  // Where nothing is shown any more, nothing is signed.
  return part ? textDigest(signedText(part.questionnaire, part.answers, place, language)) : "0".repeat(64);
}
