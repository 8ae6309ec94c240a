"use client";
import { Link } from "@/ui/link";
import styled from "styled-components";
import type { ChartField, Dated, FieldState, RowState, RowValue } from "@/core/chart";
import type { PacketState } from "@/core/packet";
import type { Id, Instant } from "@/core/shared";
import { dateWords } from "@/core/questionnaire";
import { ButtonLink } from "@/ui/button";
import { ActionForm } from "@/ui/form";
import { Notice } from "@/ui/notice";
import { MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { StateWords } from "@/ui/state-mark";
import { Moment, useTimeFrame } from "@/ui/time";
import { reverseAction } from "./actions";

export interface ChartViewProps {
  readonly requestId: string;
  readonly posted: string | undefined;
  readonly chart: {
    readonly clientId: Id<"Client">;
    readonly name: string;
    readonly calledBy: string | undefined;
    readonly age: number | undefined;
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
      readonly state: PacketState;
      readonly stateWords: string;
      readonly at: Instant;
    }[];
    readonly visits: readonly {
      readonly id: Id<"Visit">;
      readonly startsAt: Instant;
      readonly visitType: string;
      readonly practitioner: string;
    }[];
    readonly notes: readonly { readonly id: Id<"Note">; readonly updatedAt: Instant }[];
  };
}
export function ChartView({ chart, posted, requestId }: ChartViewProps) {
  const fresh = chart.postings.find((p) => p.id === posted && !p.reversed);
  return (
    <Page
      actions={<ButtonLink href={`/people/${chart.clientId}/send`}>Send questionnaires</ButtonLink>}
      title={<bdi>{chart.name}</bdi>}
      margin={
        <>
          {chart.age === undefined ? "Age not known" : `${chart.age} years`}
          {chart.calledBy ? (
            <>
              <br />
              called “{chart.calledBy}”
            </>
          ) : null}
        </>
      }
    >
      {fresh && (
        <MarginRow margin="Just now">
          <Notice tone="settled">
            <strong>Posted.</strong>{" "}
            {fresh.entries === 0
              ? "Nothing had to change."
              : `${fresh.entries} ${fresh.entries === 1 ? "entry was" : "entries were"} added to the chart.`}
            {fresh.packetId ? (
              <>
                {" "}
                <Link href={`/returns/${fresh.packetId}#draft`}>Draft a note from the answers</Link>
              </>
            ) : null}
          </Notice>
        </MarginRow>
      )}
      <MarginRow margin="Reached">
        {chart.relations.map((r, i) => (
          <div key={i}>
            <bdi>{r.name}</bdi>, <Soft>{r.kind}</Soft>
          </div>
        ))}
        <Link href={`/people/${chart.clientId}/reach`}>How they and those around them are reached</Link>
      </MarginRow>
      {chart.sections.map((section) => {
        const filled = section.fields.filter((f) => ("rows" in f ? f.rows.length > 0 : f.state !== undefined));
        const empty = section.fields.filter((f) => !filled.includes(f)).map((f) => f.field.label);
        return (
          <section key={section.title} aria-label={section.title}>
            <SectionTitle>{section.title}</SectionTitle>
            {filled.map((f) => {
              if ("rows" in f) return <ListField key={f.field.key} field={f.field} rows={f.rows} />;
              if (f.state) return <SingleField key={f.field.key} field={f.field} state={f.state} />;
              return null;
            })}
            {empty.length > 0 && (
              <MarginRow margin="Nothing on file">
                <Soft>{empty.join(", ")}</Soft>
              </MarginRow>
            )}
          </section>
        );
      })}
      <SectionTitle>Postings</SectionTitle>
      {chart.postings.map((part) => {
        const postingWords = () => {
          if (part.kind === "start") return `Chart begun with ${part.entries} entries carried over`;
          if (part.kind === "reverse") return "A posting was reversed";
          return (
            <Stack $gap="0.5rem">
              <span>
                {part.reversed ? <s>{entriesWords(part.entries)}</s> : entriesWords(part.entries)}
                {part.reversed ? <Soft> · reversed</Soft> : null}
                {part.packetId ? (
                  <>
                    {" "}
                    <Soft>
                      · <Link href={`/returns/${part.packetId}`}>the answers</Link>
                    </Soft>
                  </>
                ) : null}
              </span>
              {!part.reversed && (
                <ActionForm
                  action={reverseAction}
                  submit="Reverse this posting"
                  weight="quiet"
                  hidden={{ clientId: chart.clientId, postingId: part.id, requestId }}
                />
              )}
            </Stack>
          );
        };
        return (
          <MarginRow
            key={part.id}
            margin={
              <>
                <Moment at={part.at} />
                <br />
                {part.by}
              </>
            }
          >
            {postingWords()}
          </MarginRow>
        );
      })}
      <SectionTitle>Visits, packets and notes</SectionTitle>
      {chart.notes.map((n) => (
        <MarginRow key={n.id} margin={<Moment at={n.updatedAt} />}>
          <Link href={`/notes/${n.id}`}>Note</Link>
        </MarginRow>
      ))}
      {chart.packets.map((p) => (
        <MarginRow key={p.id} margin={<StateWords mark={p.state} words={p.stateWords} />}>
          <Link href={`/packets/${p.id}`}>Packet</Link>{" "}
          <Soft>
            <Moment at={p.at} />
          </Soft>
        </MarginRow>
      ))}
      {chart.visits.map((v) => (
        <MarginRow key={v.id} margin={<Moment at={v.startsAt} />}>
          {v.visitType} <Soft>with {v.practitioner}</Soft>
        </MarginRow>
      ))}
    </Page>
  );
}
const entriesWords = (n: number): string =>
  n === 0 ? "Settled without changes" : `${n} ${n === 1 ? "entry" : "entries"} posted`;

function Source({ dated }: { readonly dated: Dated<unknown> }) {
  return (
    <>
      <Moment at={dated.at} as="day" />
      <br />
      {dated.source.kind === "answer" ? (
        <>their answer, posted by {dated.by}</>
      ) : (
        <>
          {dated.source.reason}, {dated.by}
        </>
      )}
    </>
  );
}
function SingleField({ field, state }: { readonly field: ChartField; readonly state: FieldState }) {
  const { locale } = useTimeFrame();
  const show = (value: string): string => (field.kind === "date" ? dateWords(value, locale) : value);
  const past = state.history.filter((h) => h !== state.current);
  return (
    <MarginRow margin={state.current ? <Source dated={state.current} /> : "nothing stands now"}>
      <Label>{field.label}</Label>
      <Value dir="auto">
        {state.current && state.current.value !== "" ? show(state.current.value) : <Soft>Nothing</Soft>}
      </Value>
      {past.length > 0 && (
        <History count={past.length} label={field.label}>
          {past.map((h, i) => (
            <Past key={i} dated={h}>
              {h.value === "" ? "Nothing" : show(h.value)}
            </Past>
          ))}
        </History>
      )}
    </MarginRow>
  );
}
const rowText = (field: ChartField, value: RowValue): string =>
  field.kind === "rows" ? field.columns.flatMap((c) => value[c.key] || []).join(", ") : "";
function ListField({ field, rows }: { readonly field: ChartField; readonly rows: readonly RowState[] }) {
  return rows.map((row, index) => {
    const past = row.history.filter((h) => h !== row.current);
    return (
      <MarginRow key={row.row} margin={row.current ? <Source dated={row.current} /> : "ended or reversed"}>
        {index === 0 && <Label>{field.label}</Label>}
        <Value dir="auto">
          {row.current ? (
            rowText(field, row.current.value)
          ) : (
            <Soft>
              <s>{rowText(field, row.history[0]?.value ?? {})}</s>
            </Soft>
          )}
        </Value>
        {past.length > 0 && (
          <History count={past.length} label={field.label}>
            {past.map((h, j) => (
              <Past key={j} dated={h}>
                {h.ended ? "Ended" : rowText(field, h.value)}
              </Past>
            ))}
          </History>
        )}
      </MarginRow>
    );
  });
}
function History({
  count,
  label,
  children,
}: {
  readonly count: number;
  readonly label: string;
  readonly children: React.ReactNode;
}) {
  return (
    <Details>
      <summary aria-label={`Earlier values of ${label}`}>{count} earlier</summary>
      <ul>{children}</ul>
    </Details>
  );
}
function Past({ dated, children }: { readonly dated: Dated<unknown>; readonly children: React.ReactNode }) {
  return (
    <li>
      {dated.reversed ? <s>{children}</s> : children}{" "}
      <Soft>
        · <Moment at={dated.at} as="day" />, {dated.by}
        {dated.reversed ? ", reversed" : ""}
      </Soft>
    </li>
  );
}
const Label = styled.div`
  color: var(--soft);
  font-size: 0.94rem;
`;
const Value = styled.div`
  font-size: 1.06rem;
  white-space: pre-wrap;
`;
const Details = styled.details`
  margin-block-start: 0.35rem;
  font-size: 0.94rem;
  & > summary {
    cursor: pointer;
    color: var(--plum);
  }
  & > ul {
    padding: 0.35rem 0 0 1rem;
    display: grid;
    gap: 0.2rem;
  }
`;
