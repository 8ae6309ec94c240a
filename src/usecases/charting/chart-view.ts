import { object } from "yup";
import {
  ageOn,
  chartSections,
  chartSectionTitles,
  foldChart,
  nameOf,
  type ChartField,
  type FieldState,
  type RowState,
} from "../../core/chart";
import { markAndWords, stateAt, type PacketMark } from "../../core/packet";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { dayIn } from "../../core/scheduling";
import { idInput, notFound, query, type CommonError } from "../kit";
import { mergedWith, type MergedRecord } from "./merge";

export interface ChartView {
  readonly clientId: Id<"Client">;
  readonly name: string;
  readonly calledBy: string | undefined;
  readonly age: number | undefined;
  readonly archivedAt: Instant | null;
  readonly merged: readonly MergedRecord[];
  readonly relations: readonly { readonly name: string; readonly kind: string }[];
  readonly sections: readonly {
    readonly title: string;
    readonly fields: readonly (
      | { readonly field: ChartField; readonly state: FieldState | undefined }
      | { readonly field: ChartField; readonly rows: readonly RowState[] }
    )[];
  }[];
  readonly postings: readonly {
    readonly id: Id<"Posting">;
    readonly kind: "post" | "reverse" | "start";
    readonly at: Instant;
    readonly by: string;
    readonly entries: number;
    readonly reversed: boolean;
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
  }[];
}

export const chartView = query({
  name: "chart-view",
  access: "chart.read",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<ChartView, CommonError>> {
    const { repo, practice, now } = ctx;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client) return notFound;
    const entries = await repo.charts.entries(clientId);
    const chart = foldChart(entries);
    const fields = await repo.chartFields.all(practice.id);
    const postings = await repo.charts.postings(clientId);
    const packets = await repo.packets.ofClient(practice.id, clientId);
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
      sections: chartSections.map((section) => ({
        title: chartSectionTitles[section],
        // A retired field stands where it holds something.
        fields: fields
          .filter(
            (f) => f.field.section === section && (!f.retired || chart.fields[f.field.key] || chart.lists[f.field.key]),
          )
          .map(({ field }) =>
            field.kind === "rows"
              ? { field, rows: chart.lists[field.key] ?? [] }
              : { field, state: chart.fields[field.key] },
          ),
      })),
      postings: postings.map((part) => ({
        id: part.id,
        kind: part.kind,
        at: part.at,
        by: part.by,
        packetId: part.packetId,
        entries: entries.filter((e) => e.posting === part.id).length,
        reversed: postings.some((r) => r.reverses === part.id),
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
      notes: (await repo.notes.ofClient(practice.id, clientId)).map((n) => ({
        id: n.id,
        updatedAt: n.updatedAt,
        visitId: n.visitId,
        layoutId: n.layoutId,
      })),
    });
  },
});
