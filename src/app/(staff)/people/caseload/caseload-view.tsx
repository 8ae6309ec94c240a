"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import styled from "styled-components";
import {
  changeStateWords,
  courseKey,
  fewest,
  pointsText,
  signedText,
  type CaseOrder,
  type ChangeState,
  type Outcomes,
} from "@/core/measures";
import { Alarm, Strip, Table, Wide } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Cluster, MarginRow, Page, Soft } from "@/ui/kit/page";
import { Notice } from "@/ui/kit/notice";
import { Pick } from "@/ui/kit/pick";
import { Progress } from "@/ui/kit/progress";
import { rowKeys } from "@/ui/kit/shortcuts";
import { Moment } from "@/ui/kit/time";
import type { CaseLine, Caseload } from "@/usecases/measures";

const orders: Readonly<Record<CaseOrder, string>> = {
  worse: "worse first",
  alert: "open alerts first",
  unmeasured: "longest not measured first",
  better: "better first",
};
/** Everybody's change in one score, who needs a look first, and the figures of all of them. */
export function CaseloadView({ caseload }: { readonly caseload: Caseload }) {
  const router = useRouter();
  const to = (wish: { readonly of?: string; readonly order?: string; readonly from?: number }): string => {
    const asked = new URLSearchParams();
    const of = wish.of ?? caseload.of;
    if (of) asked.set("of", of);
    asked.set("order", wish.order ?? caseload.order);
    if (wish.from) asked.set("from", String(wish.from));
    return `/people/caseload?${asked.toString()}`;
  };
  const shown = caseload.scores.find(({ key }) => key === caseload.of);
  return (
    <Page
      title="Caseload"
      margin={shown && `${shown.people} ${shown.people === 1 ? "person" : "people"} with ${shown.title}`}
    >
      {caseload.left > 0 && <StillCounting left={caseload.left} />}
      {!shown && caseload.left === 0 && (
        <MarginRow margin="">Nothing that is scored has come back from anybody yet.</MarginRow>
      )}
      {shown && (
        <>
          <Strip as="nav" aria-label="What is shown">
            <Pick
              small
              bare
              label="Score"
              value={shown.key}
              options={caseload.scores.map(({ key, title, people }) => ({ value: key, label: `${title} (${people})` }))}
              onChange={(of) => router.push(to({ of: String(of) }))}
            />
            <Pick
              small
              bare
              label="Order"
              value={caseload.order}
              options={Object.entries(orders).map(([value, label]) => ({ value, label }))}
              onChange={(order) => router.push(to({ order: String(order) }))}
            />
            <Link href="/people/scores">Bring earlier scores from a file</Link>
            <a href="/api/scores.csv" download>
              All scores as CSV
            </a>
          </Strip>
          <Figures caseload={caseload} />
          <Wide label={`Everybody with ${shown.title}, ${orders[caseload.order]}`}>
            <People onKeyDown={rowKeys}>
              <thead>
                <tr>
                  <th scope="col">Client</th>
                  <th scope="col">First</th>
                  <th scope="col">Last</th>
                  <th scope="col">Change</th>
                  <th scope="col">What became of it</th>
                  <th scope="col">Last scores</th>
                  <th scope="col">Measured</th>
                </tr>
              </thead>
              <tbody>
                {caseload.lines.map((line) => (
                  <Line key={line.clientId} line={line} />
                ))}
              </tbody>
            </People>
          </Wide>
          {(caseload.from > 0 || caseload.next !== undefined) && (
            <Cluster>
              {caseload.from > 0 && <Link href={to({ from: Math.max(0, caseload.from - 100) })}>Before</Link>}
              {caseload.next !== undefined && <Link href={to({ from: caseload.next })}>More</Link>}
            </Cluster>
          )}
        </>
      )}
    </Page>
  );
}
/** What is worked out meanwhile is looked for again by itself. */
function StillCounting({ left }: { readonly left: number }) {
  const router = useRouter();
  const [most] = useState(left);
  useEffect(() => {
    const timer = setInterval(() => router.refresh(), 5000);
    return () => clearInterval(timer);
  }, [router]);
  return (
    <Notice tone="attention">
      The scores of {left} {left === 1 ? "person are" : "people are"} still being worked out; they are in no figure yet.{" "}
      <Progress label="Worked out" done={most - left} all={most} />
    </Notice>
  );
}
function Line({ line }: { readonly line: CaseLine }) {
  return (
    <tr>
      <th scope="row">
        <Link href={`/people/${line.clientId}/measures?of=${courseKey(line)}`} data-row>
          <bdi>{line.name}</bdi>
        </Link>
        {line.alertSince !== undefined && (
          <>
            {" "}
            <Alarm>alert open</Alarm>
          </>
        )}
      </th>
      <td>{pointsText(line.first.value)}</td>
      <td>
        <strong>{pointsText(line.last.value)}</strong>
      </td>
      <td>{line.difference === undefined ? "" : signedText(line.difference)}</td>
      <td>
        {line.difference === undefined ? (
          <Soft>{line.scores === 1 ? "one score so far" : "made differently since"}</Soft>
        ) : (
          <State state={line.state} />
        )}
      </td>
      <td>
        <Spark line={line} />
      </td>
      <td>
        <Moment at={line.last.at} as="day" />
      </td>
    </tr>
  );
}
function State({ state }: Pick<CaseLine, "state">) {
  return state === "worse" ? <Alarm>{changeStateWords[state]}</Alarm> : <>{changeStateWords[state]}</>;
}
const [width, height] = [96, 22];
/** The last scores, as small as a word; its numbers stand on the client's own page. */
function Spark({ line: { numbers, range } }: { readonly line: CaseLine }) {
  const [least, most] = range;
  const places = numbers.map((number, index) => ({
    x: 3 + (index / Math.max(1, numbers.length - 1)) * (width - 6),
    y: height - 3 - ((number - least) / Math.max(1e-9, most - least)) * (height - 6),
  }));
  const last = places.at(-1);
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} role="img" aria-label={numbers.join(", ")}>
      <polyline
        points={places.map(({ x, y }) => `${x},${y}`).join(" ")}
        fill="none"
        stroke="var(--plum)"
        strokeWidth="1.5"
      />
      {last && <circle cx={last.x} cy={last.y} r="2.5" fill="var(--plum)" />}
    </svg>
  );
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;
function Figures({ caseload: { figures, byPractitioner } }: { readonly caseload: Caseload }) {
  if (!figures) return <Known>Figures are told from {fewest} people on, so that nobody can be known from them.</Known>;
  // What nobody is has no column.
  const told = (figures.states ?? [])
    .filter(({ state, count }) => state !== "not-known" || count > 0)
    .map(({ state }) => state);
  return (
    <section aria-label="Figures">
      <Known>
        {figures.pairs} of {figures.begun} have a first and a later score.{" "}
        {figures.stopped > 0 && `${figures.stopped} stopped after one score, for twelve weeks or longer. `}
        {figures.asked > 0 &&
          `${figures.returned} of ${figures.asked} that were sent came back (${percent(figures.returned / figures.asked)}). `}
        {figures.effect && <EffectWords effect={figures.effect} />}
      </Known>
      {figures.states && (
        <Wide label="Figures, and their intervals">
          <Table>
            <thead>
              <tr>
                <th scope="col">Of those with two scores</th>
                {told.map((state) => (
                  <th key={state} scope="col">
                    {changeStateWords[state]}
                  </th>
                ))}
                <th scope="col">Change in SD</th>
              </tr>
            </thead>
            <tbody>
              <FigureRow name="All" figures={figures} told={told} />
              {byPractitioner?.map(({ name, figures: own }) => (
                <FigureRow key={name} name={name} figures={own} told={told} />
              ))}
            </tbody>
          </Table>
        </Wide>
      )}
    </section>
  );
}
const round = (n: number): string => n.toFixed(2).replace("-", "−");
function EffectWords({ effect }: { readonly effect: NonNullable<Outcomes["effect"]> }) {
  return (
    <>
      From first to last they changed by {round(effect.d)} standard deviations of the first scores (95 % interval{" "}
      {round(effect.low)} to {round(effect.high)}; above zero is better).
    </>
  );
}
interface FigureRowProps {
  readonly name: string;
  readonly figures: Outcomes | undefined;
  readonly told: readonly ChangeState[];
}
function FigureRow({ name, figures, told }: FigureRowProps) {
  return (
    <tr>
      <th scope="row">
        <bdi>{name}</bdi>
      </th>
      {figures?.states ? (
        <>
          {figures.states
            .filter(({ state }) => told.includes(state))
            .map(({ state, count, share, low, high }) => (
              <td key={state}>
                {count}
                <Soft>
                  , {percent(share)}, from {Math.round(low * 100)} to {percent(high)}
                </Soft>
              </td>
            ))}
          <td>{figures.effect ? round(figures.effect.d) : ""}</td>
        </>
      ) : (
        <td colSpan={told.length + 1}>
          <Soft>fewer than {fewest} people</Soft>
        </td>
      )}
    </tr>
  );
}
const Known = styled.p`
  margin-block: 0.4rem;
  color: var(--soft);
`;
const People = styled(Table)`
  margin-block-start: 0.75rem;
`;
