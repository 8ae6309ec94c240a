import { object } from "yup";
import {
  ageOn,
  chartSectionTitles,
  nameOf,
  quickIn,
  reversals,
  rowWords,
  sectionsIn,
  wordsIn,
  type ChartEntry,
  type ChartField,
  type ChartSection,
  type FieldState,
  type RowState,
} from "../../core/chart";
import { consentWords, isTrouble } from "../../core/consent";
import { markAndWords, stateAt, type PacketMark } from "../../core/packet";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { dayIn, type Day } from "../../core/scheduling";
import type { PracticeField } from "../../db/repositories";
import { registerLines } from "../consent";
import { idInput, may, notFound, query, type CommonError, type Context } from "../kit";
import { chartOn, onInput } from "./chart-on";
import { mergedWith, type MergedRecord } from "./merge";

export interface ChartView {
  readonly clientId: Id<"Client">;
  readonly name: string;
  readonly calledBy: string | undefined;
  readonly age: number | undefined;
  readonly archivedAt: Instant | null;
  readonly merged: readonly MergedRecord[];
  readonly relations: readonly { readonly name: string; readonly kind: string }[];
  /** The number of its last entry. */
  readonly revision: number;
  /** The day it is shown as it was on; undefined for now. */
  readonly asOn: Day | undefined;
  /** So many returns of theirs alarm, and nobody wrote yet what was done; undefined for who may not read answers. */
  readonly openAlerts: number | undefined;
  /** Facts at its head, as the practice chose them. */
  readonly quick: readonly { readonly label: string; readonly value: string }[];
  readonly mayWrite: boolean;
  readonly mayTakeOut: boolean;
  readonly mayNote: boolean;
  readonly sections: readonly {
    readonly key: ChartSection;
    readonly title: string;
    readonly fields: readonly (
      | { readonly field: ChartField; readonly state: FieldState | undefined }
      | { readonly field: ChartField; readonly rows: readonly RowState[] }
    )[];
  }[];
  /** As they stand now; none where the chart is shown as it was. */
  readonly consents: readonly {
    readonly title: string;
    readonly words: string;
    readonly trouble: boolean;
    readonly from: Instant | undefined;
    readonly until: Instant | undefined;
  }[];
  readonly postings: readonly {
    readonly id: Id<"Posting">;
    readonly kind: "post" | "reverse" | "start";
    readonly at: Instant;
    readonly by: string;
    readonly entries: number;
    readonly reversed: boolean;
    /** What of it went into the chart, in words. */
    readonly lines: readonly {
      readonly seq: number;
      readonly label: string;
      readonly words: string;
      readonly reversed: boolean;
    }[];
    readonly packetId: Id<"Packet"> | null;
  }[];
  readonly packets: readonly {
    readonly id: Id<"Packet">;
    readonly mark: PacketMark;
    readonly words: string;
    readonly at: Instant;
  }[];
  readonly visits: readonly {
    readonly id: Id<"Visit">;
    readonly startsAt: Instant;
    readonly visitType: string;
    readonly practitioner: string;
  }[];
  readonly notes: readonly {
    readonly id: Id<"Note">;
    readonly updatedAt: Instant;
    readonly visitId: Id<"Visit"> | null;
    readonly layoutId: string;
    readonly signed: boolean;
  }[];
}

/** Of postings whose lines are shown, the newest; and of values that stood in a field before. */
const mostOpened = 20;
const mostPast = 50;
const shortened = <T extends { readonly history: readonly unknown[] }>(state: T): T => ({
  ...state,
  history: state.history.slice(0, mostPast),
});
type Line = ChartView["postings"][number]["lines"][number];
/** What each of these postings wrote, in words. */
function linesByPosting(
  entries: readonly ChartEntry[],
  fields: readonly PracticeField[],
  shown: ReadonlySet<string>,
): ReadonlyMap<string, readonly Line[]> {
  const isReversed = reversals(entries);
  const known = new Map(fields.map(({ field }) => [field.key, field]));
  const lines = new Map<string, Line[]>();
  for (const entry of entries) {
    const { change, seq, posting } = entry;
    if (change.kind === "reverse" || !shown.has(posting)) continue;
    const field = known.get(change.field);
    const words = (): string => {
      if (change.kind === "set") return change.value;
      return change.kind === "row" && field ? rowWords(field, change.value) : "ended";
    };
    const own = lines.get(posting) ?? [];
    own.push({ seq, label: field?.label ?? change.field, words: words(), reversed: isReversed(entry) });
    lines.set(posting, own);
  }
  return lines;
}

async function standingConsents(ctx: Context, clientId: Id<"Client">): Promise<ChartView["consents"]> {
  return (await registerLines(ctx, [clientId])).map(({ text, state, given }) => ({
    title: text.title,
    words: consentWords[state],
    trouble: isTrouble(state),
    from: given.at(-1)?.from,
    until: given.at(-1)?.until ?? undefined,
  }));
}

export const chartView = query({
  name: "chart-view",
  access: "chart.read",
  input: object({
    clientId: idInput<"Client">(),
    on: onInput,
  }),
  async run(ctx, { clientId, on }): Promise<Result<ChartView, CommonError>> {
    const { repo, practice, now } = ctx;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client) return notFound;
    const entries = await repo.charts.entries(clientId);
    const chart = chartOn(entries, on, practice.zone);
    const fields = await repo.chartFields.all(practice.id);
    const layout = practice.chartLayout;
    const postings = await repo.charts.postings(clientId);
    const shown = new Set(postings.slice(0, mostOpened).map((posting) => posting.id as string));
    const linesOf = linesByPosting(entries, fields, shown);
    const many = new Map<string, number>();
    for (const { posting, change } of entries)
      if (change.kind !== "reverse") many.set(posting, (many.get(posting) ?? 0) + 1);
    const reversedWhole = new Set(postings.map((posting) => posting.reverses));
    const packets = (await repo.packets.ofClient(practice.id, clientId)).filter(({ isTakeHome }) => !isTakeHome);
    const troubles = await repo.outbox.troubles(
      practice.id,
      packets.map((p) => p.id),
    );
    ctx.journal("chart.view", `client:${clientId}`);
    return ok({
      clientId,
      name: nameOf(client),
      calledBy: client.preferredName,
      age: client.birthDate ? ageOn(client.birthDate, dayIn(now, practice.zone)) : undefined,
      archivedAt: client.archivedAt,
      merged: await mergedWith(ctx, clientId),
      relations: (await repo.relations.ofClient(clientId))
        .filter((r) => !r.ended)
        .map((r) => ({ name: nameOf(r), kind: r.kind })),
      revision: chart.revision,
      asOn: on as Day | undefined,
      mayWrite: on === undefined && client.archivedAt === null && may(ctx, "chart.post"),
      mayTakeOut: may(ctx, "export"),
      mayNote: client.archivedAt === null && may(ctx, "note.write"),
      openAlerts: may(ctx, "answers.read")
        ? (await repo.alerts.ofClients([client.id])).filter(({ done }) => !done).length
        : undefined,
      quick: quickIn(
        layout,
        fields.map(({ field }) => field),
      ).flatMap((field) => {
        const value = wordsIn(chart, field);
        return value === "" ? [] : [{ label: field.label, value }];
      }),
      sections: sectionsIn(layout).map((section) => ({
        key: section,
        title: chartSectionTitles[section],
        // A retired field stands where it holds something.
        fields: fields
          .filter(
            ({ field, retired }) =>
              field.section === section &&
              ((!retired && !layout.hidden?.includes(field.key)) || chart.fields[field.key] || chart.lists[field.key]),
          )
          .map(({ field }) =>
            field.kind === "rows"
              ? { field, rows: (chart.lists[field.key] ?? []).map(shortened) }
              : { field, state: chart.fields[field.key] && shortened(chart.fields[field.key]!) },
          ),
      })),
      consents: on === undefined ? await standingConsents(ctx, clientId) : [],
      postings: postings.map((part) => ({
        id: part.id,
        kind: part.kind,
        at: part.at,
        by: part.by,
        packetId: part.packetId,
        entries: many.get(part.id) ?? 0,
        reversed: reversedWhole.has(part.id),
        // Ten years of lines would be most of the page; what is older is taken back as a whole.
        lines: linesOf.get(part.id) ?? [],
      })),
      packets: packets.map((p) => ({
        id: p.id,
        ...markAndWords(stateAt(p.state, p.expiresAt, now), troubles.get(p.id)),
        at: p.returnedAt ?? p.sentAt ?? p.createdAt,
      })),
      visits: (await repo.visits.ofClient(practice.id, clientId)).map((v) => ({
        id: v.id,
        startsAt: v.startsAt,
        visitType: v.visitType,
        practitioner: v.staffName,
      })),
      notes: (await repo.notes.headsOf(practice.id, clientId)).map((n) => ({
        id: n.id,
        updatedAt: n.updatedAt,
        visitId: n.visitId,
        layoutId: n.layoutId,
        signed: n.signedAt !== null,
      })),
    });
  },
});
