import { object } from "yup";
import { journalWords } from "../../core/audit";
import { nameOf, reversals, rowWords, writeTable, type ChartEntry, type ChartField } from "../../core/chart";
import { writeRecord, type JsonObject } from "../../core/fhir";
import { bandOf } from "../../core/measures";
import { linesOf, plainText, type NoteContent } from "../../core/notes";
import { packetStateWords, stateAt } from "../../core/packet";
import { dayIn } from "../../core/scheduling";
import { dateWords } from "../../core/questionnaire";
import { dateFormat, fail, instantMs, languageName, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Paper } from "../../adapters/paper";
import type { RecordPaper } from "../../adapters/record-paper";
import type { Client, StoredFile } from "../../db/repositories";
import {
  fieldsOf,
  idInput,
  inOrder,
  letterhead,
  may,
  notFound,
  query,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";
import { consentResources } from "../consent";
import { alertLines } from "../measures/alerts";
import { KnownScores, pointsOfClients } from "../measures/courses";
import { partToTakeOut, readParts, type TakeOutFrame } from "./returns";

/** One client's everything, ready to be drawn and packed; files are fetched one by one, with `everythingFile`. */
export interface Everything {
  readonly name: string;
  readonly record: RecordPaper;
  /** What they answered, a paper each. */
  readonly papers: readonly { readonly path: string; readonly paper: Paper }[];
  readonly bundle: JsonObject;
  readonly files: readonly { readonly id: Id<"File">; readonly path: string }[];
  /** What the journal says about them, as a table. */
  readonly journal: string;
}

/** A name that any system takes for a file. */
const plainName = (text: string): string =>
  text
    .normalize("NFKC")
    .replace(/[\\/:*?"<>|\p{C}]+/gu, " ")
    .replace(/\s+/g, " ")
    .trim()
    .slice(0, 80) || "file";
const numbered = (index: number): string => String(index + 1).padStart(3, "0");
/** Links in letters let their holder in; they are not for a file that goes from hand to hand. */
const withoutLinks = (body: string): string => body.replace(/(\/p\/|\/join\/|\/reset\/)[\w-]{16,}/g, "$1…");

const noteText = ({ body, takeHome, ...known }: NoteContent, addenda: readonly string[]): string =>
  [plainText(linesOf(body, known)), plainText(linesOf(takeHome)), ...addenda]
    .filter((text) => text !== "")
    .join("\n\n");

function changeText({ change }: ChartEntry, field: ChartField | undefined): string {
  if (change.kind === "set") return change.value;
  if (change.kind !== "row") return "";
  return field ? rowWords(field, change.value) : Object.values(change.value).filter(Boolean).join(", ");
}

/** What the papers and the bundle are made of. */
async function gather(ctx: Context<StaffActor>, client: Client) {
  const { repo, practice } = ctx;
  const relations = await repo.relations.ofClient(client.id);
  const visits = await repo.visits.ofClient(practice.id, client.id);
  const packets = await repo.packets.ofClient(practice.id, client.id);
  const parts = await inOrder(packets, async (packet) => {
    const relation = relations.find(({ id }) => id === packet.relationId);
    const visit = visits.find(({ id }) => id === packet.visitId);
    const frame: TakeOutFrame = { packet, client, relation, visit };
    return inOrder(await readParts(ctx, packet.id), async (part) => ({
      title: part.questionnaire.title,
      packet,
      ...(await partToTakeOut(ctx, frame, part)),
    }));
  });
  // One after the other: each is opened whole to read its name.
  const files = await inOrder(await repo.files.idsOfClient(practice.id, client.id), async (id) =>
    repo.files.byId(practice.id, id),
  );
  const staff = new Map((await repo.staff.all(practice.id)).map(({ id, name }) => [id as string, name]));
  return {
    client,
    relations,
    visits,
    entries: await repo.charts.entries(client.id),
    fields: new Map((await fieldsOf(ctx)).map((field) => [field.key, field])),
    notes: await inOrder(await repo.notes.ofClient(practice.id, client.id), async (note) => ({
      ...note,
      addenda: (await repo.notes.addenda(note.id)).map(
        ({ by, at, text }) =>
          `Added by ${staff.get(by) ?? ""}, ${dateWords(dayIn(at, practice.zone), practice.locale)}: ${text}`,
      ),
    })),
    staff,
    letters: (await inOrder(packets, async ({ id }) => repo.outbox.ofPacket(id))).flat(),
    parts: parts.flat(),
    files: files
      .flatMap((found) => found?.file ?? [])
      .map((file, index) => ({ file, path: `files/${numbered(index)} ${plainName(file.title)}` })),
    consents: await consentResources(ctx, client),
    openings: await repo.careTeams.openings(client.id, mostOpenings),
    courses: await new KnownScores(ctx).coursesOf((await pointsOfClients(ctx, [client.id])).get(client.id) ?? []),
    alerts: await alertLines(ctx, [client.id]),
  };
}
const mostOpenings = 100_000;
type Gathered = Awaited<ReturnType<typeof gather>>;

function sectionsOf({ practice, now }: Context<StaffActor>, all: Gathered): RecordPaper["sections"] {
  const { client, staff } = all;
  const when = (at: Instant): string =>
    dateFormat(practice.locale, { dateStyle: "medium", timeStyle: "short", timeZone: practice.zone }).format(
      instantMs(at),
    );
  return [
    {
      title: "Who they are",
      nothing: "",
      lines: [
        { label: "Name", text: nameOf(client) },
        { label: "Likes to be called", text: client.preferredName ?? "" },
        { label: "Birth date", text: client.birthDate ? dateWords(client.birthDate, practice.locale) : "" },
        { label: "E-mail", text: client.email ?? "" },
        { label: "Phone", text: client.phone ?? "" },
        { label: "Language", text: languageName(client.language) },
      ],
    },
    {
      title: "Around them",
      nothing: "Nobody is noted.",
      lines: all.relations.map((one) => ({
        label: one.kind,
        text: [nameOf(one), one.email, one.phone].filter(Boolean).join(", "),
        ...(one.ended ? { beside: "no longer" } : {}),
      })),
    },
    {
      title: "Chart, with its past",
      nothing: "Nothing was posted.",
      lines: chartEntries(all).map(({ label, text, at, by, reversed }) => ({
        label,
        text: text === "" ? "no longer" : text,
        beside: `${when(at)}, ${by}${reversed ? ", reversed" : ""}`,
      })),
    },
    {
      title: "Questionnaires",
      nothing: "None was sent.",
      lines: all.parts.map(({ title, packet }) => ({
        label: title,
        text: packetStateWords[stateAt(packet.state, packet.expiresAt, now)],
        beside: when(packet.returnedAt ?? packet.sentAt ?? packet.createdAt),
      })),
    },
    {
      title: "Scores",
      nothing: "Nothing was scored.",
      lines: scoreLines(all).map(({ title, text, at, brought }) => ({
        label: title,
        text,
        beside: `${when(at)}${brought ? ", from a file" : ""}`,
      })),
    },
    {
      title: "What alarmed, and what was done",
      nothing: "Nothing did.",
      lines: all.alerts.map(({ about, raisedAt, done }) => ({
        label: about.map(({ question, message }) => `${message}: ${question}`).join("; ") || "Answered otherwise since",
        text: done ? done.words : "open",
        beside: done ? `${when(raisedAt)}; ${when(done.at)}, ${done.by}` : when(raisedAt),
      })),
    },
    {
      title: "Visits",
      nothing: "None was made.",
      lines: all.visits.map((visit) => ({
        label: when(visit.startsAt),
        text: `${visit.visitType}, ${visit.staffName}`,
        ...(visit.cancelledAt ? { beside: "cancelled" } : {}),
      })),
    },
    {
      title: "Notes",
      nothing: "None was written.",
      lines: all.notes.map((note) => ({
        label: when(note.updatedAt),
        text: noteText(note.content, note.addenda),
        beside: staff.get(note.updatedBy ?? note.author) ?? "",
      })),
    },
    {
      title: "Letters and texts",
      nothing: "None was written.",
      lines: all.letters.map((letter) => ({
        label: letter.subject || "Text message",
        text: withoutLinks(letter.body),
        beside: `${when(letter.createdAt)}, to ${letter.toName}`,
      })),
    },
    {
      title: "Files",
      nothing: "None was given.",
      lines: all.files.map(({ file, path }) => ({ label: file.title, text: path, beside: when(file.createdAt) })),
    },
    {
      title: "Opened by colleagues whose client they are not",
      nothing: "By nobody.",
      lines: all.openings.map((one) => ({
        label: staff.get(one.staffId) ?? "",
        text: one.reason,
        beside: when(one.at),
      })),
    },
  ];
}
const bundleOf = ({ practice, now }: Context<StaffActor>, all: Gathered): JsonObject =>
  writeRecord({
    at: now,
    practice: practice.name,
    client: all.client,
    relations: all.relations,
    entries: chartEntries(all),
    responses: all.parts.map(({ fhir }) => fhir),
    consents: all.consents,
    visits: all.visits.map((visit) => ({
      ...visit,
      type: visit.visitType,
      practitioner: visit.staffName,
      cancelled: visit.cancelledAt !== null,
    })),
    notes: all.notes.map((note) => ({
      id: note.id,
      at: note.updatedAt,
      by: all.staff.get(note.updatedBy ?? note.author) ?? "",
      text: noteText(note.content, note.addenda) || "–",
    })),
    letters: all.letters.map((letter) => ({
      id: letter.id,
      at: letter.createdAt,
      channel: letter.channel,
      subject: letter.subject,
      text: withoutLinks(letter.body),
    })),
    files: all.files.map(({ file, path }) => ({
      id: file.id,
      at: file.createdAt,
      title: file.title,
      contentType: file.contentType,
      bytes: file.size,
      path: encodeURI(path),
    })),
  });

/** Everything that is kept about one client, to be given to them. */
export const everything = query({
  name: "everything",
  access: "export",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<Everything, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    if (!may(ctx, "chart.read")) return fail({ reason: "not-allowed" });
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client || client.mergedInto) return notFound;
    const all = await gather(ctx, client);
    ctx.journal("everything.export", `client:${clientId}`);
    return ok({
      name: nameOf(client),
      record: {
        ...(await letterhead(ctx)),
        title: `Everything about ${nameOf(client)}`,
        person: nameOf(client),
        madeAt: now,
        madeBy: actor.name,
        zone: practice.zone,
        locale: practice.locale,
        sections: sectionsOf(ctx, all),
      },
      papers: all.parts.map(({ title, paper }, index) => ({
        path: `answers/${numbered(index)} ${plainName(title)}.pdf`,
        paper,
      })),
      bundle: bundleOf(ctx, all),
      files: all.files.map(({ file, path }) => ({ id: file.id, path })),
      journal: await journalOf(ctx, clientId, all.staff),
    });
  },
});
const scoreLines = ({ courses }: Pick<Gathered, "courses">) =>
  courses.flatMap((course) =>
    course.points.map((point) => ({
      title: course.title,
      text: [
        point.value === undefined ? `not scorable, ${point.answered} of ${point.items} answered` : String(point.value),
        bandOf(course, point),
      ]
        .filter((said) => said !== "")
        .join(", "),
      at: point.at,
      brought: point.partId === undefined,
    })),
  );
function chartEntries({ entries, fields }: Pick<Gathered, "entries" | "fields">) {
  const isReversed = reversals(entries);
  return entries.flatMap((entry) =>
    entry.change.kind === "reverse"
      ? []
      : [
          {
            id: `${entry.posting}-${entry.seq}`.slice(-64),
            at: entry.at,
            by: entry.by,
            label: fields.get(entry.change.field)?.label ?? entry.change.field,
            text: changeText(entry, fields.get(entry.change.field)),
            reversed: isReversed(entry),
          },
        ],
  );
}
const mostJournalRows = 100_000;
async function journalOf(
  { repo, practice }: Context<StaffActor>,
  clientId: Id<"Client">,
  staff: ReadonlyMap<string, string>,
): Promise<string> {
  const packets = await repo.packets.idsOf(practice.id, clientId);
  const notes = await repo.notes.idsOf(practice.id, clientId);
  const subjects = [`client:${clientId}`, ...packets.map((id) => `packet:${id}`), ...notes.map((id) => `note:${id}`)];
  const rows = await repo.journal.find(practice.id, { subjects }, mostJournalRows);
  const by = (actor: string): string => staff.get(actor.replace("staff:", "")) ?? actor.split(":")[0]!;
  return writeTable([
    ["row", "at", "what", "by", "from"],
    ...rows.map(({ seq, at, action, actor, address }) => [
      String(seq),
      at,
      journalWords[action] ?? action,
      by(actor),
      // Where a member of staff sat is theirs.
      actor.startsWith("staff:") ? "" : address,
    ]),
  ]);
}

/** One of the files that a client gave. */
export const everythingFile = query({
  name: "everything-file",
  access: "export",
  input: object({ clientId: idInput<"Client">(), fileId: idInput<"File">() }),
  async run(ctx, { clientId, fileId }): Promise<Result<{ file: StoredFile; bytes: Uint8Array }, CommonError>> {
    const { repo, practice } = ctx;
    if (!may(ctx, "chart.read")) return fail({ reason: "not-allowed" });
    const isTheirs = (await repo.files.idsOfClient(practice.id, clientId)).includes(fileId);
    const found = isTheirs ? await repo.files.byId(practice.id, fileId) : undefined;
    return found ? ok(found) : notFound;
  },
});
