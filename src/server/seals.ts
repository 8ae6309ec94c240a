import { randomUUID } from "node:crypto";
import { sha256 } from "../adapters/encryption";
import { fail, ok, type Id, type Instant, type Result } from "../core/shared";
import { repositories, type Practice } from "../db/repositories";
import { withoutValues } from "../db/errors";
import { isDrawn } from "../core/worksheet";
import { paperToSeal, type SheetToSign, type ToSeal } from "../usecases/signing";
import type { SheetMark } from "../adapters/sheet-marks";
import type { Application } from "./application";

const loadSeals = () => import("../adapters/seal");

/** What this practice seals with, made when it is first asked for. */
export async function sealIdentities(app: Application, practice: Practice) {
  const { makeIdentity, factsOf } = await loadSeals();
  const now = app.ports.clock.now();
  const current = async (use: "seal" | "time-stamp") => {
    const { sealedPapers } = repositories(app.database.db, app.ports.sealer);
    const there = await withoutValues(() => sealedPapers.current(practice.id, use));
    if (there) return there;
    const made = await makeIdentity(practice.name, use, now);
    return withoutValues(() =>
      app.database.db.transaction(async (db) => {
        const repo = repositories(db, app.ports.sealer);
        await repo.practices.hold(practice.id);
        const meanwhile = await repo.sealedPapers.current(practice.id, use);
        if (meanwhile) return meanwhile;
        const row = {
          id: randomUUID() as Id<"SealCertificate">,
          practiceId: practice.id,
          use,
          chain: made.chain,
          fingerprint: factsOf(made.chain[0]!).fingerprint,
          brought: false,
          createdAt: now,
          endedAt: null,
        };
        await repo.sealedPapers.addCertificate(row, made.key);
        return { ...row, key: made.key };
      }),
    );
  };
  return { seal: await current("seal"), stamp: await current("time-stamp") };
}

/**
 * Makes and seals the paper of a part, once: whoever else did meanwhile, this finds it. Killed at any point, nothing or
 * the whole is there. It stays due until those who signed have been told. `sealed`: it was done here, and not before;
 * `not-due`: nothing is to be sealed, or something changed while it was made.
 */
export async function sealPart(
  app: Application,
  practice: Practice,
  partId: Id<"Part">,
): Promise<Result<{ readonly sealed: boolean }, "not-due">> {
  const now = app.ports.clock.now();
  const reading = { repo: repositories(app.database.db, app.ports.sealer), practice, now };
  const found = await withoutValues(() => paperToSeal(reading, partId));
  const due = typeof found === "string" ? undefined : found;
  const bytes = due && (await sealedBytes(app, practice, reading.repo, due, now));
  const file = bytes && { id: randomUUID() as Id<"File">, bytes, sha256: sha256(bytes) };
  return withoutValues(() =>
    app.database.db.transaction(async (db) => {
      const repo = repositories(db, app.ports.sealer);
      const held = await repo.packets.part(practice.id, partId, true);
      if (!held) return fail("not-due" as const);
      const again = await paperToSeal({ repo, practice, now }, partId);
      if (again === "sealed") return held.part.sealDueAt === null ? fail("not-due" as const) : ok({ sealed: false });
      if (again === "incomplete") {
        // It becomes due again once it is complete.
        await repo.signers.setSealDue(partId, null);
        return fail("not-due" as const);
      }
      if (!due || !file || !isSameSeal(due, again)) return fail("not-due" as const);
      await repo.files.add(
        practice.id,
        {
          id: file.id,
          partId,
          contentType: "application/pdf",
          size: file.bytes.length,
          createdAt: now,
          title: fileName(due),
        },
        file.bytes,
      );
      const added = await repo.sealedPapers.add({
        id: randomUUID() as Id<"SealedPaper">,
        partId,
        number: due.number,
        revision: due.revision,
        fileId: file.id,
        sha256: file.sha256,
        signatures: due.signatures.map((s) => s.id),
        createdAt: now,
      });
      if (!added) throw new Error("A paper was sealed twice at once.");
      // Pages that show how it stands.
      await repo.journal.notify("returns", practice.id);
      await repo.journal.write(practice.id, now, [
        {
          actor: "system",
          action: "paper.seal",
          subject: `packet:${held.packet.id}`,
          address: "",
          detail: { part: partId, number: due.number, revision: due.revision, sha256: file.sha256 },
        },
      ]);
      return ok({ sealed: true });
    }),
  );
}
const fileName = ({ one, number, revision }: ToSeal): string =>
  `${one.questionnaire.title.slice(0, 80)} ${number}.${revision}.pdf`;
const isSameSeal = (one: ToSeal, other: ToSeal): boolean =>
  one.number === other.number &&
  one.revision === other.revision &&
  one.signatures.map((s) => s.id).join() === other.signatures.map((s) => s.id).join();

async function sealedBytes(
  app: Application,
  practice: Practice,
  repo: ReturnType<typeof repositories>,
  due: ToSeal,
  at: Instant,
): Promise<Uint8Array> {
  const { sealPdf, ownTimeStamps, timeStampsFrom } = await loadSeals();
  const { renderSignedPaper, renderLaterPaper } = await import("../adapters/signed-paper");
  const { seal, stamp } = await sealIdentities(app, practice);
  const order = {
    identity: seal,
    stamp: app.ports.timeStampUrl === undefined ? ownTimeStamps(stamp, at) : timeStampsFrom(app.ports.timeStampUrl),
    name: practice.name,
    reason: `${due.signatures.map((s) => s.statement.signer).join(", ")}. ${due.one.part.id} ${due.number}.${due.revision}`,
    at,
  };
  if ("whole" in due.paper) {
    const drawn = await renderSignedPaper(due.paper.whole);
    return sealPdf(due.sheet ? await behindSheet(app, practice, repo, due.sheet, drawn) : drawn, order);
  }
  const before = await withoutValues(() => repo.files.byId(practice.id, due.goesOn!.fileId));
  if (!before) throw new Error("The paper that is gone on with is not there.");
  return sealPdf(before.bytes, { ...order, pages: await renderLaterPaper(due.paper.later) });
}
/**
 * The sheet that was signed, before the paper about it. Answers in letters that the sheet's own fonts lack are drawn
 * with ours.
 */
async function behindSheet(
  { ports }: Application,
  practice: Practice,
  repo: ReturnType<typeof repositories>,
  { id, values, marks }: SheetToSign,
  paper: Uint8Array,
): Promise<Uint8Array> {
  const sheet = await withoutValues(() => repo.files.sheet(practice.id, id));
  const facts = sheet && (await ports.pdf.check(sheet));
  if (!sheet || !facts?.ok) throw new Error("The sheet that was signed cannot be read.");
  const answers = values.flatMap((value): SheetMark[] => {
    const field = facts.value.fields.find((one) => one.name === value.field);
    if (!field || value.kind !== "text" || isDrawn(value.text)) return [];
    const { page, left, top, width, height } = field;
    return [{ box: { page: page + 1, left, bottom: top - height, width, height }, text: value.text }];
  });
  const all = [...answers, ...marks];
  const { renderSheetMarks } = await import("../adapters/sheet-marks");
  const stamped = await ports.pdf.stamp({
    sheet,
    values,
    boxes: all.map(({ box }) => box),
    marks: await renderSheetMarks(all),
    paper,
  });
  if (!stamped.ok) throw new Error("The sheet that was signed cannot be gone on with.");
  return stamped.value;
}
