"use client";
import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import styled from "styled-components";
import { addDays } from "@/core/scheduling";
import type { Readiness } from "@/core/packet";
import type { Id, Instant } from "@/core/shared";
import { dayTitle } from "@/i18n/moments";
import { ButtonLink } from "@/ui/button";
import { useLiveReload } from "@/ui/live";
import { Cluster, MarginRow, Page, Soft } from "@/ui/page";
import { rowKeys, Shortcuts } from "@/ui/shortcuts";
import { StateWords } from "@/ui/state-mark";
import { Moment, useTimeFrame } from "@/ui/time";

interface Line {
  readonly visitId: Id<"Visit">;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly visitType: string;
  readonly practitioner: string;
  readonly readiness: Readiness;
  readonly packetId: Id<"Packet"> | undefined;
}
export interface DaySheetViewProps {
  readonly sheet: {
    readonly day: string;
    readonly today: string;
    readonly zone: string;
    readonly lines: readonly Line[];
  };
}

/** Where a visit's line leads: to the next thing to do for it. */
function nextStep(line: Line): { href: string; words: string; strong: boolean } {
  const packet = `/packets/${line.packetId ?? ""}`;
  switch (line.readiness.next) {
    case "send":
      return { href: `/visits/${line.visitId}/send`, words: "Send questionnaires", strong: false };
    case "read":
    case "reconcile":
      return { href: `/returns/${line.packetId ?? ""}`, words: "Read what came back", strong: true };
    case "reissue":
      return { href: packet, words: "Send a fresh link", strong: true };
    case "none":
      return line.readiness.mark === "settled"
        ? { href: `/people/${line.clientId}`, words: "Open chart", strong: false }
        : { href: packet, words: "See its journey", strong: false };
  }
}

export function DaySheetView({ sheet }: DaySheetViewProps) {
  const frame = useTimeFrame();
  const router = useRouter();
  useLiveReload();
  const go = (day: string): string => (day === sheet.today ? "/day" : `/day?on=${day}`);
  const [before, after] = [addDays(sheet.day, -1), addDays(sheet.day, 1)];
  const waiting = sheet.lines.filter((l) => l.readiness.next === "read").length;
  return (
    <Page
      title={dayTitle(sheet.day, frame.locale)}
      margin={sheet.day === sheet.today ? "Today" : <Link href="/day">Back to today</Link>}
      actions={
        <Cluster as="nav" aria-label="Days">
          <ButtonLink href={go(before)} rel="prev">
            Day before
          </ButtonLink>
          <ButtonLink href={go(after)} rel="next">
            Day after
          </ButtonLink>
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
      <Summary>
        {sheet.lines.length === 0
          ? "No visits on this day."
          : `${sheet.lines.length} ${sheet.lines.length === 1 ? "visit" : "visits"}`}
        {waiting > 0 ? `, ${waiting} with answers to read` : ""}{" "}
        <Soft>
          · <Link href="/post-room">Post room</Link>
        </Soft>
      </Summary>
      <ol onKeyDown={rowKeys}>
        {sheet.lines.map((line) => {
          const next = nextStep(line);
          return (
            <li key={line.visitId}>
              <MarginRow
                margin={
                  <>
                    <Time>
                      <Moment at={line.startsAt} as="clock" />
                    </Time>
                    <StateWords mark={line.readiness.mark} words={line.readiness.words} />
                  </>
                }
              >
                <Row>
                  <div>
                    <Client href={`/people/${line.clientId}`} data-row>
                      <bdi>{line.clientName}</bdi>
                    </Client>
                    <div>
                      {line.visitType} <Soft>with {line.practitioner}</Soft>
                    </div>
                  </div>
                  <ButtonLink
                    href={next.href}
                    weight={next.strong ? "primary" : "plain"}
                    aria-label={`${next.words}: ${line.clientName}`}
                  >
                    {next.words}
                  </ButtonLink>
                </Row>
              </MarginRow>
            </li>
          );
        })}
      </ol>
    </Page>
  );
}
const Summary = styled.p`
  padding-block: 0.75rem;
  border-block-end: 1px solid var(--rule);
`;
const Time = styled.div`
  font: 600 1.15rem/1.3 var(--sans);
  color: var(--ink);
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  align-items: center;
  justify-content: space-between;
`;
const Client = styled(Link)`
  font: 600 1.12rem/1.3 var(--serif);
  color: var(--ink);
  text-decoration-color: var(--rule-strong);
`;
