"use client";
import { startTransition, useCallback, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import {
  bandOf,
  changeIn,
  courseKey,
  isScored,
  lastChange,
  mixedWords,
  pointsText,
  signedText,
  stateWords,
  trendOf,
  trendSvg,
  trendWords,
  type Course,
  type Trend,
} from "@/core/measures";
import { dateFormat, instantMs, type Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { ButtonLink } from "@/ui/kit/button-link";
import { Alarm, Fold, Strip, Table, Wide } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import { TrendPlot } from "@/ui/plot/trend-plot";
import type { MeasuresView } from "@/usecases/measures";
import { AlertsOpen } from "../../../alerts-open";
import { HowWorkedOut } from "./how-worked-out";
import { ItemPlots } from "./item-plots";
import { PointTable } from "./point-table";
import { Schedules } from "./schedules";

export interface MeasuresPageProps {
  readonly view: MeasuresView;
  readonly requestId: string;
  readonly of?: string | undefined;
  readonly since?: string | undefined;
  readonly beside?: string | undefined;
}

/** Somebody's scores over time: each with what became of it, one of them drawn, and the numbers behind it. */
export function MeasuresPage({ view, requestId, of, since, beside }: MeasuresPageProps) {
  useLiveReload();
  const { courses, clientId } = view;
  const [chosen, setChosen] = useState(of ?? "");
  const shown = courses.find((course) => courseKey(course) === chosen) ?? courses[0];
  return (
    <Page
      title={
        <>
          Measures: <bdi>{view.name}</bdi>
        </>
      }
      margin={<Link href={`/people/${clientId}`}>Chart</Link>}
      actions={
        shown && (
          <ButtonLink href={`/shared/${clientId}?of=${courseKey(shown)}`} weight="primary">
            Show to the client
          </ButtonLink>
        )
      }
    >
      <Strip>
        {view.mayTakeOut && courses.length > 0 && (
          <>
            <a href={`/api/people/${clientId}/scores.csv`}>All scores as CSV</a>
            <a href={`/api/people/${clientId}/scores.json`}>FHIR</a>
          </>
        )}
        {courses.length === 0 && <span>Nothing that is scored has come back yet.</span>}
      </Strip>
      <AlertsOpen alerts={view.alerts.filter(({ done }) => !done)} />
      {courses.length > 0 && (
        <Wide label="Each score, and what became of it">
          <Overview>
            <thead>
              <tr>
                <th scope="col">Score</th>
                <th scope="col">Last</th>
                <th scope="col">On</th>
                <th scope="col">Since the one before</th>
                <th scope="col">Since the first</th>
              </tr>
            </thead>
            <tbody>
              {courses.map((course) => (
                <CourseLine
                  key={courseKey(course)}
                  course={course}
                  isShown={course === shown}
                  onShow={() => setChosen(courseKey(course))}
                />
              ))}
            </tbody>
          </Overview>
        </Wide>
      )}
      {shown && (
        <ShownCourse
          key={courseKey(shown)}
          view={view}
          course={shown}
          since={courseKey(shown) === of ? since : undefined}
          besideAtFirst={beside}
        />
      )}
      <Schedules key={view.schedules?.going.length} view={view} requestId={requestId} />
    </Page>
  );
}
function CourseLine({
  course,
  isShown,
  onShow,
}: {
  readonly course: Course;
  readonly isShown: boolean;
  readonly onShow: () => void;
}) {
  const last = course.points.filter(isScored).at(-1);
  const band = last && bandOf(course, last);
  const [before, first] = [lastChange(course), changeIn(course)];
  return (
    <tr data-shown={isShown || undefined}>
      <th scope="row">
        <Button weight="quiet" onPress={onShow} aria-pressed={isShown}>
          {course.title}
        </Button>
      </th>
      <td>
        {last ? (
          <>
            <strong>{pointsText(last.value)}</strong> {band && <Soft>{band}</Soft>}
          </>
        ) : (
          <Soft>
            not scorable, {course.points.at(-1)?.answered} of {course.points.at(-1)?.items} answered
          </Soft>
        )}
      </td>
      <td>{last && <Moment at={last.at} as="day" />}</td>
      <td>{before.known ? signedText(before.change.difference) : <Soft>{stateWords(before)}</Soft>}</td>
      <td>
        {first.known && `${signedText(first.change.difference)}, `}
        {first.known && first.change.state === "worse" ? (
          <Alarm>{stateWords(first)}</Alarm>
        ) : (
          <span>{stateWords(first)}</span>
        )}
      </td>
    </tr>
  );
}

function ShownCourse({
  view,
  course,
  since,
  besideAtFirst,
}: {
  readonly view: MeasuresView;
  readonly course: Course;
  readonly since: string | undefined;
  readonly besideAtFirst: string | undefined;
}) {
  const { locale, zone } = useTimeFrame();
  const [baseline, setBaseline] = useState<Instant | undefined>(since as Instant | undefined);
  const [other, setOther] = useState(besideAtFirst ?? "");
  const others = view.courses.filter((one) => one !== course && one.points.some(isScored));
  const compared = others.find((one) => courseKey(one) === other);
  const trend = useMemo(() => trendOf(course, view.moments, baseline), [course, view.moments, baseline]);
  const beside = useMemo(() => {
    const found = view.courses.find((one) => courseKey(one) === other);
    return found && trendOf(found, []);
  }, [view.courses, other]);
  const says = useMemo(() => trendWords(course, locale, zone, baseline), [course, locale, zone, baseline]);
  const mixed = useMemo(() => mixedWords(course, zone), [course, zone]);
  const dayOf = useMemo(() => {
    const day = dateFormat(locale, { day: "numeric", month: "short", year: "numeric", timeZone: zone });
    return (at: Instant): string => day.format(instantMs(at));
  }, [locale, zone]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const onDrawn = useCallback((drawn: HTMLCanvasElement): void => {
    canvas.current = drawn;
  }, []);
  const fileName = `score-${course.linkId.replace(/[^\w-]+/g, "-")}`;
  const missing = course.points.filter((point) => !isScored(point));
  if (trend.points.length === 0)
    return (
      <p>
        Not scorable yet: {missing.at(-1)?.answered} of {missing.at(-1)?.items} items were answered.
      </p>
    );
  return (
    <section aria-label={course.title}>
      <SectionTitle>{course.title}</SectionTitle>
      <Says aria-live="polite">{says}</Says>
      {mixed.map((words) => (
        <Known key={words}>{words}</Known>
      ))}
      {trend.corridor && (
        <Known>
          Shaded: within {pointsText(trend.corridor[0])} to {pointsText(trend.corridor[1])} a change from the baseline
          may be chance. Short strokes at the foot: visits.
        </Known>
      )}
      <TrendPlot trend={trend} says={says} beside={beside} onDrawn={onDrawn} />
      <Below>
        <Pick
          small
          label="Baseline"
          value={trend.baseline ?? ""}
          options={baselines(trend).map(({ at, value }) => ({
            value: at as string,
            label: `${dayOf(at)}: ${pointsText(value)}`,
          }))}
          // The list closes at once; many points are drawn after it.
          onChange={(at) => startTransition(() => setBaseline(at as Instant))}
        />
        {others.length > 0 && (
          <Pick
            small
            label="Beside it"
            value={other}
            placeholder="nothing"
            options={[
              { value: "", label: "nothing" },
              ...others.map((one) => ({ value: courseKey(one), label: one.title })),
            ]}
            onChange={(key) => startTransition(() => setOther(String(key)))}
          />
        )}
        <Cluster>
          <Button
            weight="quiet"
            onPress={() => {
              const on = canvas.current;
              if (on) save(on.toDataURL("image/png"), `${fileName}.png`);
            }}
          >
            Picture (PNG)
          </Button>
          <Button
            weight="quiet"
            onPress={() => {
              const url = URL.createObjectURL(new Blob([trendSvg(trend, says, dayOf)], { type: "image/svg+xml" }));
              save(url, `${fileName}.svg`);
              setTimeout(() => URL.revokeObjectURL(url));
            }}
          >
            Drawing (SVG)
          </Button>
        </Cluster>
      </Below>
      {beside && <Known>Beside it, dashed, by the scale on the right: {trendWords(compared!, locale, zone)}</Known>}
      <HowWorkedOut course={course} />
      <Fold open>
        <summary>The numbers</summary>
        <PointTable course={course} dayOf={dayOf} />
      </Fold>
      <ItemPlots items={view.items[course.questionnaireId] ?? none} dayOf={dayOf} />
    </section>
  );
}
const none: readonly never[] = [];
const mostBaselines = 24;
/** Of very many scores some, evenly spread, the first and the chosen one among them. */
function baselines({ points, baseline }: Trend): Trend["points"] {
  const every = Math.ceil(points.length / mostBaselines);
  return points.filter(({ at }, index) => index % every === 0 || at === baseline);
}
function save(href: string, name: string): void {
  const link = document.createElement("a");
  link.href = href;
  link.download = name;
  link.click();
}
const Overview = styled(Table)`
  & tr[data-shown] th {
    font-weight: 700;
  }
`;
const Says = styled.p`
  margin-block: 0.5rem;
  font: 500 1.06rem/1.4 var(--serif);
`;
const Known = styled.p`
  margin-block: 0.15rem;
  color: var(--soft);
  font-size: var(--small);
`;
const Below = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 0.4rem 1.25rem;
  padding-block: 0.4rem;
  border-block-end: 1px solid var(--rule);
`;
