"use client";
import { instantMs } from "@/core/shared";
import { ButtonLink } from "@/ui/kit/button-link";
import { Alarm, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { StateWords } from "@/ui/kit/state-mark";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { ChartView as Chart } from "@/usecases/charting";
import { ChartBand, postingsIn } from "./chart-band";
import { folios } from "./folio";
import { Postings } from "./postings";
import { MergedLine } from "./reach/client-record";

export interface ChartViewProps {
  readonly requestId: string;
  readonly posted: string | undefined;
  readonly chart: Chart;
}
/** Everything on file, a band a section, each value with the number of the posting that brought it. */
export function ChartView({ chart, posted, requestId }: ChartViewProps) {
  const fresh = chart.postings.find((p) => p.id === posted && !p.reversed);
  const numbered = folios(chart.postings);
  const gone = chart.merged.filter((record) => record.gone);
  return (
    <Page
      title={<bdi>{chart.name}</bdi>}
      margin={<About chart={chart} />}
      actions={
        chart.archivedAt === null &&
        gone.length === 0 && (
          <ButtonLink href={`/people/${chart.clientId}/send`} weight="primary">
            Send questionnaires
          </ButtonLink>
        )
      }
    >
      {fresh && (
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
      )}
      {gone.map((record) => (
        <MergedLine key={record.mergeId} clientId={chart.clientId} record={record} />
      ))}
      <Around chart={chart} />
      {chart.sections.map((section, index) => (
        <ChartBand
          key={section.title}
          section={section}
          folios={numbered}
          told={new Set(chart.sections.slice(0, index).flatMap(postingsIn))}
        />
      ))}
      <Postings chart={chart} folios={numbered} requestId={requestId} />
      <SectionTitle>Visits, packets and notes</SectionTitle>
      {chart.notes.map((note) => (
        <MarginRow key={note.id} margin={<Moment at={note.updatedAt} />}>
          <Link href={`/notes/${note.id}`}>Note</Link>
        </MarginRow>
      ))}
      {chart.packets.map((packet) => (
        <MarginRow key={packet.id} margin={<StateWords mark={packet.mark} words={packet.words} />}>
          <Link href={`/packets/${packet.id}`}>Packet</Link>{" "}
          <Soft>
            <Moment at={packet.at} />
          </Soft>
        </MarginRow>
      ))}
      {chart.visits.map((visit) => (
        <MarginRow key={visit.id} margin={<Moment at={visit.startsAt} />}>
          {visit.visitType} <Soft>with {visit.practitioner}</Soft>
        </MarginRow>
      ))}
    </Page>
  );
}

function About({ chart }: { readonly chart: Chart }) {
  const { now } = useTimeFrame();
  const next = chart.visits
    .filter((visit) => instantMs(visit.startsAt) >= instantMs(now))
    .sort((a, b) => instantMs(a.startsAt) - instantMs(b.startsAt))[0];
  return (
    <>
      {chart.age === undefined ? "Age not known" : `${chart.age} years`}
      {chart.calledBy ? `, called “${chart.calledBy}”` : null}
      {chart.archivedAt === null ? null : ", archived"}
      {next ? (
        <>
          <br />
          next visit <Moment at={next.startsAt} />, {next.visitType}, {next.practitioner}
        </>
      ) : null}
    </>
  );
}

/** What must not be overlooked, and who is around them. */
function Around({ chart }: { readonly chart: Chart }) {
  const allergies = chart.sections.flatMap((section) =>
    section.fields.flatMap((f) =>
      f.field.key === "allergies" && "rows" in f
        ? f.rows.flatMap((row) => (row.current ? [row.current.value] : []))
        : [],
    ),
  );
  return (
    <Strip>
      {allergies.map((row) => (
        <Alarm key={row["substance"]}>
          {row["substance"]}
          {row["reaction"] ? `: ${row["reaction"].toLowerCase()}` : ""}
        </Alarm>
      ))}
      {chart.relations.map((relation) => (
        <span key={relation.name}>
          <bdi>{relation.name}</bdi>, {relation.kind}
        </span>
      ))}
      <Link href={`/people/${chart.clientId}/reach`}>Details</Link>
    </Strip>
  );
}
