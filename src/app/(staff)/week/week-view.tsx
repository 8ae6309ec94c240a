"use client";
import { useRouter } from "next/navigation";
import styled from "styled-components";
import { dayTitle } from "@/i18n/moments";
import { ButtonLink } from "@/ui/kit/button-link";
import { Columns, ListLine, Name, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, Page, Soft } from "@/ui/kit/page";
import { rowKeys, Shortcuts } from "@/ui/kit/shortcuts";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { Week } from "@/usecases/scheduling";

/** A week's visits, day under day. */
export function WeekView({ week }: { readonly week: Week }) {
  const { locale } = useTimeFrame();
  const router = useRouter();
  useLiveReload();
  const { days, before, after, today } = week;
  const count = days.reduce((sum, { lines }) => sum + lines.length, 0);
  const isThis = days.some(({ day }) => day === today);
  return (
    <Page
      title={`Week from ${dayTitle(days[0]!.day, locale)}`}
      margin={isThis ? "This week" : <Link href="/week">Back to this week</Link>}
      actions={
        <Cluster as="nav" aria-label="Weeks">
          <ButtonLink href={`/week?on=${before}`} rel="prev">
            Week before
          </ButtonLink>
          <ButtonLink href={`/week?on=${after}`} rel="next">
            Week after
          </ButtonLink>
        </Cluster>
      }
    >
      <Shortcuts
        list={[
          { key: "p", does: "week before", run: () => router.push(`/week?on=${before}`) },
          { key: "n", does: "week after", run: () => router.push(`/week?on=${after}`) },
          { key: "t", does: "this week", run: () => router.push("/week") },
        ]}
      />
      <Strip as="p">
        <span>{count === 0 ? "No visits in this week" : `${count} ${count === 1 ? "visit" : "visits"}`}</span>
        <Link href="/day">Day sheet</Link>
        <Link href={`/visits/new?on=${isThis ? today : days[0]!.day}`}>Make a visit</Link>
      </Strip>
      {days.map(({ day, lines }) => (
        <section key={day} aria-labelledby={`day-${day}`}>
          <DayTitle id={`day-${day}`}>
            <Link href={day === today ? "/day" : `/day?on=${day}`}>{dayTitle(day, locale)}</Link>{" "}
            <Soft>{day === today ? "today" : ""}</Soft>
          </DayTitle>
          {lines.length === 0 && <Free>No visits</Free>}
          <ol onKeyDown={rowKeys}>
            {lines.map((line) => (
              <ListLine key={line.visitId} margin={<Moment at={line.startsAt} as="clock" />}>
                <Columns>
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
                </Columns>
              </ListLine>
            ))}
          </ol>
        </section>
      ))}
    </Page>
  );
}
const DayTitle = styled.h2`
  margin-block: 0.9rem 0.2rem;
`;
const Free = styled.p`
  color: var(--soft);
`;
