"use client";
import { useRouter } from "next/navigation";
import type { ReactNode } from "react";
import styled from "styled-components";
import { dayTitle } from "@/i18n/moments";
import { byNeed } from "@/ui/kit/by-need";
import { ButtonLink } from "@/ui/kit/button-link";
import { Alarm, Columns, ListLine, Name, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, MarginRow, Page, Soft, Spoken } from "@/ui/kit/page";
import { rowKeys, Shortcuts } from "@/ui/kit/shortcuts";
import { StateWords } from "@/ui/kit/state-mark";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { Right } from "@/core/team";
import { FirstSteps } from "./first-steps";
import type { DayLine, DaySheet } from "@/usecases/scheduling";

/** A list to pick from is a good part of a page's script, and most days are read without it. */
const WithOnePick = byNeed(async () => (await import("../with-one-pick")).WithOnePick);

/** Where a visit's line leads: to the next thing to do for it. */
function nextStep(line: DayLine): { href: string; words: string; strong: boolean } {
  const packet = `/packets/${line.packetId ?? ""}`;
  switch (line.readiness.next) {
    case "send":
      return { href: `/visits/${line.visitId}/send`, words: "Send questionnaires", strong: false };
    case "read":
    case "reconcile":
      return { href: `/returns/${line.packetId ?? ""}`, words: "Read answers", strong: true };
    case "reissue":
      return { href: packet, words: "Send a fresh link", strong: true };
    case "reach":
      return { href: packet, words: "Reach them otherwise", strong: true };
    case "none":
      return line.readiness.mark === "settled"
        ? { href: `/people/${line.clientId}`, words: "Open chart", strong: false }
        : { href: packet, words: "Open packet", strong: false };
  }
}

export interface DaySheetViewProps {
  readonly sheet: DaySheet;
  readonly rights: readonly Right[];
  /** What comes before the day. */
  readonly above?: ReactNode;
}
export function DaySheetView({ sheet, rights, above }: DaySheetViewProps) {
  const frame = useTimeFrame();
  const router = useRouter();
  useLiveReload();
  const go = (day: string, staffId: string | undefined = sheet.with.staffId): string => {
    const asked = [...(day === sheet.today ? [] : [`on=${day}`]), ...(staffId ? [`with=${staffId}`] : [])];
    return asked.length === 0 ? "/day" : `/day?${asked.join("&")}`;
  };
  const everybodys = sheet.day === sheet.today ? "/day" : `/day?on=${sheet.day}`;
  const { before, after } = sheet;
  const real = sheet.lines.filter(({ isTest }) => !isTest);
  const waiting = real.filter((l) => l.readiness.next === "read").length;
  const unreached = real.filter((l) => l.readiness.next === "reach").length;
  const count = real.length;
  return (
    <Page
      title={dayTitle(sheet.day, frame.locale)}
      margin={sheet.day === sheet.today ? "Today" : <Link href="/day">Back to today</Link>}
      actions={
        <Cluster>
          <WithOnePick who={sheet.with} hrefOf={(staffId) => (staffId ? go(sheet.day, staffId) : everybodys)} />
          <Cluster as="nav" aria-label="Days">
            <ButtonLink href={go(before)} rel="prev">
              Day before
            </ButtonLink>
            <ButtonLink href={go(after)} rel="next">
              Day after
            </ButtonLink>
          </Cluster>
        </Cluster>
      }
    >
      <Shortcuts
        list={[
          { key: "p", does: "day before", run: () => router.push(go(before)) },
          { key: "n", does: "day after", run: () => router.push(go(after)) },
          { key: "t", does: "today", run: () => router.push("/day") },
        ]}
      />
      {above}
      <Strip as="p">
        <span>
          {count === 0 ? "No visits on this day" : `${count} ${count === 1 ? "visit" : "visits"}`}
          {waiting > 0 ? `, ${waiting} with answers to read` : ""}
          {unreached > 0 ? `, ${unreached} whose letter did not arrive` : ""}
        </span>
        {rights.includes("visit.book") && <Link href={`/visits/new?on=${sheet.day}`}>Make a visit</Link>}
        <Link href={`/week?on=${sheet.day}`}>Week</Link>
        {rights.includes("note.write") && <Link href="/notes">Find in notes</Link>}
        {rights.includes("packet.send") && <Link href="/send">Send to somebody new, or without a visit</Link>}
        {rights.includes("post-room.read") && <Link href="/post-room">Post room</Link>}
      </Strip>
      {sheet.unfinished.length > 0 && <Unfinished notes={sheet.unfinished} />}
      {sheet.firstSteps.length > 0 && <FirstSteps steps={sheet.firstSteps} />}
      <Lines onKeyDown={rowKeys}>
        {sheet.lines.map((line) => {
          const next = nextStep(line);
          return (
            <ListLine
              key={line.visitId}
              margin={
                <>
                  <Time href={`/visits/${line.visitId}`}>
                    <Moment at={line.startsAt} as="clock" />
                    <Spoken> visit of {line.clientName}</Spoken>
                  </Time>
                  <StateWords mark={line.readiness.mark} words={line.readiness.words} />
                </>
              }
              action={
                <ButtonLink
                  href={next.href}
                  weight={next.strong ? "primary" : "plain"}
                  aria-label={`${next.words}: ${line.clientName}`}
                >
                  {next.words}
                </ButtonLink>
              }
            >
              <Columns>
                <Name href={`/people/${line.clientId}`} data-row>
                  <bdi>{line.clientName}</bdi>
                </Name>
                <span>
                  {line.visitType} <Soft>with {line.practitioner}</Soft>
                </span>
                {line.openAlerts > 0 && rights.includes("answers.read") && (
                  <AlertLink href={`/people/${line.clientId}/measures`} aria-label={`Alert open: ${line.clientName}`}>
                    <Alarm>{line.openAlerts === 1 ? "Alert open" : `${line.openAlerts} alerts open`}</Alarm>
                  </AlertLink>
                )}
                {line.uncharted.length > 0 && rights.includes("answers.read") && (
                  <Link href={`/returns/${line.uncharted[0]!}`} aria-label={`Not charted yet: ${line.clientName}`}>
                    {line.uncharted.length === 1 ? "A return" : `${line.uncharted.length} returns`} not charted
                  </Link>
                )}
                {line.consents.length > 0 && <ConsentWords line={line} />}
              </Columns>
            </ListLine>
          );
        })}
      </Lines>
      {sheet.cancelled.map((line) => (
        <MarginRow key={line.visitId} margin={<Moment at={line.startsAt} as="clock" />}>
          <Soft>
            Cancelled by {line.by === "client" ? "the client" : "the practice"}:{" "}
            <Link href={`/visits/${line.visitId}`}>
              <bdi>{line.clientName}</bdi>
            </Link>
          </Soft>
        </MarginRow>
      ))}
    </Page>
  );
}
/** Notes that wait for whoever looks. */
function Unfinished({ notes }: { readonly notes: DaySheet["unfinished"] }) {
  return (
    <MarginRow margin="Notes to finish">
      <Cluster $gap="0.2rem 1.2rem">
        {notes.map((note) => (
          <span key={note.id}>
            <Link href={`/notes/${note.id}`}>
              <bdi>{note.clientName}</bdi>
            </Link>{" "}
            <Soft>
              {note.toCosign ? "to sign beside, " : ""}
              <Moment at={note.at} as="day" />
            </Soft>
          </span>
        ))}
      </Cluster>
    </MarginRow>
  );
}
/** Consents to be seen to before the visit: the first in words, the others in a number. */
function ConsentWords({ line }: { readonly line: DaySheet["lines"][number] }) {
  const [first, ...more] = line.consents;
  return (
    <Link href={`/people/${line.clientId}/consents`} aria-label={`Consents of ${line.clientName}`}>
      {first!.words}: <bdi>{first!.title}</bdi>
      {more.length > 0 ? `, and ${more.length} more` : ""}
    </Link>
  );
}
/** A state is said on one line. */
const Lines = styled.ol`
  --margin-column: 12rem;
  --action-column: 11rem;
`;
/** As high as a finger needs, also right under a name. */
const AlertLink = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-block-size: 1.6rem;
`;
const Time = styled(Link)`
  text-decoration-color: var(--rule-strong);
  font-weight: 600;
  font-size: var(--text);
  color: var(--ink);
`;
