"use client";
import { useRouter } from "next/navigation";
import styled from "styled-components";
import type { Right } from "@/core/team";
import { dayTitle } from "@/i18n/moments";
import { byNeed } from "@/ui/kit/by-need";
import { ButtonLink } from "@/ui/kit/button-link";
import { Name, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, MarginRow, Page, Soft } from "@/ui/kit/page";
import { rowKeys, Shortcuts } from "@/ui/kit/shortcuts";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { Week } from "@/usecases/scheduling";

/** A list to pick from is a good part of a page's script, and most days are read without it. */
const WithOnePick = byNeed(async () => (await import("../with-one-pick")).WithOnePick);

/** A week's visits, day under day. */
export interface WeekViewProps {
  readonly week: Week;
  readonly rights: readonly Right[];
}
export function WeekView({ week, rights }: WeekViewProps) {
  const { locale } = useTimeFrame();
  const router = useRouter();
  useLiveReload();
  const { days, before, after, today } = week;
  const count = days.reduce((sum, { lines }) => sum + lines.length, 0);
  const hrefOf = (day: string, staffId: string | undefined = week.with.staffId): string =>
    `/week?on=${day}${staffId ? `&with=${staffId}` : ""}`;
  const isThis = days.some(({ day }) => day === today);
  return (
    <Page
      title={`Week from ${dayTitle(days[0]!.day, locale)}`}
      margin={isThis ? "This week" : <Link href="/week">Back to this week</Link>}
      actions={
        <Cluster>
          <WithOnePick
            who={week.with}
            hrefOf={(staffId) => (staffId ? hrefOf(days[0]!.day, staffId) : `/week?on=${days[0]!.day}`)}
          />
          <Cluster as="nav" aria-label="Weeks">
            <ButtonLink href={hrefOf(before)} rel="prev">
              Week before
            </ButtonLink>
            <ButtonLink href={hrefOf(after)} rel="next">
              Week after
            </ButtonLink>
          </Cluster>
        </Cluster>
      }
    >
      <Shortcuts
        list={[
          { key: "p", does: "week before", run: () => router.push(hrefOf(before)) },
          { key: "n", does: "week after", run: () => router.push(hrefOf(after)) },
          { key: "t", does: "this week", run: () => router.push("/week") },
        ]}
      />
      <Strip as="p">
        <span>{count === 0 ? "No visits in this week" : `${count} ${count === 1 ? "visit" : "visits"}`}</span>
        <Link href="/day">Day sheet</Link>
        {rights.includes("visit.book") && (
          <Link href={`/visits/new?on=${isThis ? today : days[0]!.day}`}>Make a visit</Link>
        )}
      </Strip>
      {days.map(({ day, lines }) => (
        <MarginRow
          key={day}
          margin={
            <>
              <DayLink href={day === today ? "/day" : `/day?on=${day}`}>{dayTitle(day, locale)}</DayLink>
              {day === today ? <Soft>today</Soft> : null}
            </>
          }
        >
          {lines.length === 0 ? (
            <Soft>No visits</Soft>
          ) : (
            <ol aria-label={dayTitle(day, locale)} onKeyDown={rowKeys}>
              {lines.map((line) => (
                <Line key={line.visitId}>
                  <Clock>
                    <Moment at={line.startsAt} as="clock" />
                  </Clock>
                  <Name href={`/visits/${line.visitId}`} data-row>
                    <bdi>{line.clientName}</bdi>
                  </Name>
                  <span>
                    {line.visitType}{" "}
                    <Soft>
                      with {line.practitioner}
                      {line.room ? `, ${line.room}` : ""}
                    </Soft>
                  </span>
                </Line>
              ))}
            </ol>
          )}
        </MarginRow>
      ))}
    </Page>
  );
}
const DayLink = styled(Link)`
  display: block;
  font-weight: 600;
  color: var(--ink);
`;
const Line = styled.li`
  display: grid;
  grid-template-columns: 4rem minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 0 0.75rem;
  align-items: baseline;
  padding-block: 0.1rem;
  @media (max-width: 44rem) {
    grid-template-columns: 4rem minmax(0, 1fr);
    & > :last-child {
      grid-column: 2;
    }
  }
`;
const Clock = styled.span`
  font-variant-numeric: tabular-nums;
`;
