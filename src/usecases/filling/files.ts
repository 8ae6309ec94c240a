import { object, string } from "yup";
import { mostFiles, type FileProblem } from "../../core/files";
import { isOpen, isOpenAgain, stateAt, type SentBack } from "../../core/packet";
import { allQuestions, linkIdOf, readChange, type AnswerValue, type FileValue } from "../../core/questionnaire";
import { fail, laterBy, ok, type Id, type Result } from "../../core/shared";
import {
  bytesInput,
  command,
  idInput,
  notFound,
  query,
  requestInput,
  takeFile,
  type ClientActor,
  type CommonError,
  type Context,
} from "../kit";

export type AddFileError =
  CommonError | { readonly reason: "closed" } | { readonly reason: "refused"; readonly why: FileProblem };
/** Files of one packet that cost too much to look into, in an hour. */
const mostCostly = 5;

/**
 * Keeps a file a client gives as an answer, and says how to name it in the answer; saving that answer is the page's
 * next step. The request's id becomes the file's, so that sending it twice keeps one.
 */
export const addFile = command({
  name: "add-file",
  access: "client.fill",
  input: object({
    requestId: requestInput,
    partId: idInput<"Part">(),
    key: string().max(500).required(),
    name: string().max(1000).default(""),
    bytes: bytesInput,
  }),
  async before(ctx, { name, bytes }) {
    // Who sends files that cost much is not asked for more of them for a while: all clients share what looks into
    // files.
    const { repo, actor, now } = ctx;
    const key = `files:costly:${actor.packetId}`;
    const since = laterBy(now, -60 * 60_000);
    if ((await repo.limits.soFar(key, since)) >= mostCostly) return fail<FileProblem>("too-many");
    const taken = await takeFile(ctx, name, bytes);
    if (!taken.ok && taken.error === "too-costly") await repo.limits.count(key, now, since);
    return taken;
  },
  async run(ctx, { requestId, partId, key }, taken): Promise<Result<FileValue, AddFileError>> {
    const { repo, practice, now } = ctx;
    const found = await repo.packets.part(practice.id, partId, true);
    if (found?.packet.id !== ctx.actor.packetId) return notFound;
    if (!isOpen(stateAt(found.packet.state, found.packet.expiresAt, now))) return fail({ reason: "closed" });
    const questionnaire = await repo.versions.definition(found.part.versionId);
    const question = allQuestions(questionnaire).find((q) => q.linkId === linkIdOf(key) && q.type === "attachment");
    if (!question || !readChange(questionnaire, { kind: "values", key, values: [] }).ok) return notFound;
    const sentBack =
      found.packet.state === "sent-back" ? repo.packets.unseal<SentBack>(found.packet, "sentBack") : undefined;
    if (sentBack && !isOpenAgain(sentBack, partId, { key })) return notFound;
    const id = requestId as Id<"File">;
    const before = await repo.files.byId(practice.id, id);
    if (before) {
      ctx.journal("file.add-repeated", `packet:${found.packet.id}`);
      return before.file.partId === partId ? ok(valueOf(before.file)) : notFound;
    }
    if ((await repo.files.countOf(partId)) >= mostFiles) return fail({ reason: "refused", why: "too-many" });
    if (!taken.ok) {
      ctx.journal("file.refuse", `packet:${found.packet.id}`, { why: taken.error });
      return fail({ reason: "refused", why: taken.error });
    }
    const file = {
      id,
      partId,
      title: taken.value.title,
      contentType: taken.value.type,
      size: taken.value.bytes.length,
      createdAt: now,
    };
    await repo.files.add(practice.id, file, taken.value.bytes);
    ctx.journal("file.add", `packet:${found.packet.id}`, { file: id, bytes: file.size });
    return ok(valueOf(file));
  },
});
const valueOf = ({ id, title, contentType, size }: FileValue): FileValue => ({ id, title, contentType, size });

export const fileIds = (values: readonly AnswerValue[]): string[] =>
  values.flatMap((v) => (v.type === "attachment" ? [v.value.id] : []));
/** Whether every file named in these answers was given by this part's client. */
export async function ownFiles(
  { repo }: Context<ClientActor>,
  partId: Id<"Part">,
  values: readonly AnswerValue[],
): Promise<boolean> {
  const ids = fileIds(values);
  return ids.length === 0 || repo.files.allOf(partId, ids);
}

/** The PDF of a worksheet, for the client who works on it, and for who signs that questionnaire. */
export const clientSheet = query({
  name: "client-sheet",
  access: "client.any",
  input: object({ partId: idInput<"Part">() }),
  async run(
    { repo, practice, actor },
    { partId },
  ): Promise<Result<{ readonly title: string; readonly bytes: Uint8Array }, CommonError>> {
    const versionId = await repo.packets.versionOfPart(actor.packetId, partId);
    if (actor.role === "signs") {
      const signerId = (await repo.links.byId(actor.linkId))?.signerId;
      const places = (await repo.signers.placesOf([partId])).filter((p) => p.endedAt === null);
      if (!places.some((p) => p.signerId === signerId)) return notFound;
    }
    const sheet = versionId && (await repo.versions.definition(versionId)).sheet;
    const bytes = sheet && (await repo.files.sheet(practice.id, sheet.id));
    return sheet && bytes ? ok({ title: sheet.title, bytes }) : notFound;
  },
});
