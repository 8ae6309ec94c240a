"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import styled from "styled-components";
import { instantMs } from "@/core/shared";
import { ButtonLink } from "@/ui/kit/button-link";
import { Alarm, Fold, Strip } from "@/ui/kit/ledger";
import { dateWords } from "@/core/questionnaire";
import { dayIn } from "@/core/scheduling";
import { Button } from "@/ui/kit/button";
import { ActionForm } from "@/ui/kit/form";
import { DateField } from "@/ui/kit/date-field";
import { TextField } from "@/ui/kit/text-field";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { StateWords } from "@/ui/kit/state-mark";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { ChartView as Chart } from "@/usecases/charting";
import { beginNoteAction } from "../../notes/actions";
import { ChartBand, postingsIn } from "./chart-band";
import { folios } from "./folio";
import { Postings } from "./postings";
import { MergedLine } from "./reach/client-record";
import { WriteInSection } from "./write-in-section";

export interface ChartViewProps {
  readonly requestId: string;
  readonly posted: string | undefined;
  readonly chart: Chart;
}
/** Everything on file, a band a section, each value with the number of the posting that brought it. */
export function ChartView({ chart, posted, requestId }: ChartViewProps) {
  const { locale } = useTimeFrame();
  const [search, setSearch] = useState("");
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
          <Cluster>
            {chart.mayNote && (
              <ActionForm
                action={beginNoteAction}
                submit="Begin a note"
                weight="plain"
                hidden={{ clientId: chart.clientId, requestId }}
              />
            )}
            <ButtonLink href={`/people/${chart.clientId}/send`} weight="primary">
              Send questionnaires
            </ButtonLink>
          </Cluster>
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
      {chart.asOn && (
        <Notice tone="attention">
          <strong>As it was on {dateWords(chart.asOn, locale)}.</strong> What came later is not shown.{" "}
          <Link href={`/people/${chart.clientId}`}>As it is now</Link>
        </Notice>
      )}
      <Around chart={chart} />
      {chart.quick.length > 0 && (
        <Quick aria-label="Quick facts">
          {chart.quick.map((fact) => (
            <div key={fact.label}>
              <dt>{fact.label}</dt>
              <dd dir="auto">{fact.value}</dd>
            </div>
          ))}
        </Quick>
      )}
      <Looking>
        <TextField
          label="Search in this chart"
          bare
          placeholder="Search in this chart"
          value={search}
          onChange={setSearch}
        />
        <AsOn chart={chart} />
      </Looking>
      {chart.sections.map((section, index) => (
        <ChartBand
          key={section.title}
          section={section}
          folios={numbered}
          told={new Set(chart.sections.slice(0, index).flatMap(postingsIn))}
          search={search.trim()}
        >
          {section.key === "consents" && <Consents chart={chart} search={search.trim()} />}
          {chart.mayWrite && section.fields.length > 0 && (
            <WriteInSection
              key={chart.revision}
              section={section}
              clientId={chart.clientId}
              requestId={requestId}
              number={firstWritten + index * 1000}
            />
          )}
        </ChartBand>
      ))}
      <Postings chart={chart} folios={numbered} requestId={requestId} />
      <SectionTitle>Visits, packets and notes</SectionTitle>
      {chart.notes.map((note) => (
        <MarginRow key={note.id} margin={<Moment at={note.updatedAt} />}>
          <Link href={`/notes/${note.id}`}>Note</Link> {!note.signed && <Soft>not signed off</Soft>}
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

/** What they agreed to, as it stands. */
function Consents({ chart, search }: { readonly chart: Chart; readonly search: string }) {
  if (search !== "" || chart.asOn) return null;
  return (
    <Agreed>
      {chart.consents.map((consent) => (
        <li key={consent.title}>
          <bdi>{consent.title}</bdi> {consent.trouble ? <Alarm>{consent.words}</Alarm> : <Soft>{consent.words}</Soft>}
          {consent.from && (
            <Soft>
              , since <Moment at={consent.from} as="day" />
            </Soft>
          )}
          {consent.until && (
            <Soft>
              , until <Moment at={consent.until} as="day" />
            </Soft>
          )}
        </li>
      ))}
      <li>
        <Link href={`/people/${chart.clientId}/consents`}>
          {chart.consents.length === 0
            ? "No consent is asked of them; all consents"
            : "What was given, and what came before"}
        </Link>
      </li>
    </Agreed>
  );
}
const Agreed = styled.ul`
  grid-column: 1 / -1;
`;

/** Ids below are of entries that are reversed. */
const firstWritten = 1_000_000_000;

/** The whole chart as it was on a day. */
function AsOn({ chart }: { readonly chart: Chart }) {
  const { now, zone, locale } = useTimeFrame();
  const router = useRouter();
  const [on, setOn] = useState<string>(chart.asOn ?? dayIn(now, zone));
  return (
    <Fold open={chart.asOn !== undefined}>
      <summary>As it was on…</summary>
      <Cluster>
        <DateField label="As it was on" value={on} onChange={setOn} locale={locale} />
        <Button weight="plain" isDisabled={on === ""} onPress={() => router.push(`/people/${chart.clientId}?on=${on}`)}>
          Show
        </Button>
      </Cluster>
    </Fold>
  );
}
const Looking = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  justify-content: space-between;
  gap: 0.4rem 1.5rem;
  padding-block: 0.4rem;
  border-block-end: 1px solid var(--rule-strong);
  & > :first-child {
    flex: 0 1 20rem;
  }
`;
const Quick = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1.75rem;
  padding-block: 0.4rem;
  border-block-end: 1px solid var(--rule);
  & dt {
    color: var(--soft);
    font-size: var(--small);
  }
  & dd {
    font-weight: 600;
    max-width: 24rem;
    overflow: hidden;
    text-overflow: ellipsis;
    display: -webkit-box;
    -webkit-line-clamp: 2;
    -webkit-box-orient: vertical;
  }
`;
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
      {chart.openAlerts !== undefined && (
        <Link href={`/people/${chart.clientId}/measures`}>
          Measures
          {chart.openAlerts > 0 && (
            <Alarm>{chart.openAlerts === 1 ? " alert open" : ` ${chart.openAlerts} alerts open`}</Alarm>
          )}
        </Link>
      )}
      {chart.mayTakeOut && (
        <>
          <a href={`/api/people/${chart.clientId}/chart.json`}>FHIR</a>
          <a href={`/api/people/${chart.clientId}/chart.csv`}>CSV</a>
          <a href={`/api/people/${chart.clientId}/chart.pdf${chart.asOn ? `?on=${chart.asOn}` : ""}`}>PDF</a>
        </>
      )}
    </Strip>
  );
}
