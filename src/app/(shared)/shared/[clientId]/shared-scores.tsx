"use client";
import { useEffect, useMemo, useState } from "react";
import styled from "styled-components";
import { changeIn, courseKey, isScored, pointsText, trendOf, type Course } from "@/core/measures";
import { dateFormat, directionOf, instantMs, type Instant } from "@/core/shared";
import { shareWords } from "@/i18n/share-words";
import { Button } from "@/ui/kit/button";
import { ButtonLink } from "@/ui/kit/button-link";
import { Cluster } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import { TrendPlot } from "@/ui/plot/trend-plot";
import type { SharedScores as View } from "@/usecases/measures";

export interface SharedScoresProps {
  readonly view: View;
  readonly clientId: string;
  readonly of?: string | undefined;
}
/**
 * In plain words and large type; the arrow keys go from one score to the next. No key leads
 * back to work: what stands there is not for this screen.
 */
export function SharedScores({ view, clientId, of }: SharedScoresProps) {
  const { courses, language } = view;
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      courses.findIndex((course) => courseKey(course) === of),
    ),
  );
  const words = shareWords(language);
  const dir = directionOf(language);
  useEffect(() => {
    // Onwards is where the language runs to.
    const onwards = dir === "rtl" ? -1 : 1;
    const turn = (event: KeyboardEvent): void => {
      const step = { ArrowRight: onwards, ArrowDown: 1, ArrowLeft: -onwards, ArrowUp: -1 }[event.key];
      if (step === undefined || courses.length === 0) return;
      event.preventDefault();
      setAt((now) => (now + step + courses.length) % courses.length);
    };
    window.addEventListener("keydown", turn);
    return () => window.removeEventListener("keydown", turn);
  }, [courses.length, dir]);
  const [backArrow, onArrow] = dir === "rtl" ? ["→", "←"] : ["←", "→"];
  const course = courses[at];
  return (
    <Sheet lang={language} dir={dir} id="page">
      <h1>{words.title}</h1>
      {course && <OneScore key={courseKey(course)} course={course} language={language} />}
      <Cluster>
        {courses.length > 1 && (
          <>
            <Button
              weight="plain"
              onPress={() => setAt((at - 1 + courses.length) % courses.length)}
              aria-label={words.before}
            >
              {backArrow}
            </Button>
            <span>
              {at + 1} / {courses.length}
            </span>
            <Button weight="plain" onPress={() => setAt((at + 1) % courses.length)} aria-label={words.next}>
              {onArrow}
            </Button>
          </>
        )}
        <Back dir="ltr" lang="en">
          <Button
            weight="quiet"
            onPress={() => void document.documentElement.requestFullscreen?.().catch(() => undefined)}
          >
            Full screen
          </Button>
          <ButtonLink weight="quiet" href={`/people/${clientId}/measures${course ? `?of=${courseKey(course)}` : ""}`}>
            Back to work
          </ButtonLink>
        </Back>
      </Cluster>
    </Sheet>
  );
}
function OneScore({ course, language }: { readonly course: Course; readonly language: string }) {
  const { zone } = useTimeFrame();
  const words = shareWords(language);
  const trend = useMemo(() => {
    // What takes an explanation stays out: the chance around a baseline, the cut-point.
    const { corridor: _, cutoff: __, ...plain } = trendOf(course, []);
    return plain;
  }, [course]);
  const scored = course.points.filter(isScored);
  const [first, last] = [scored[0]!, scored.at(-1)!];
  const day = dateFormat(language, { day: "numeric", month: "long", year: "numeric", timeZone: zone });
  const dayOf = (at: Instant): string => day.format(instantMs(at));
  const found = changeIn(course);
  const better = course.versions.at(-1)?.change?.better;
  const said = [
    ...(first === last ? [] : [words.was(pointsText(first.value), dayOf(first.at))]),
    words.is(pointsText(last.value), dayOf(last.at)),
    ...(better ? [words.better[better]] : []),
    ...(found.known ? [words.state[found.change.state]] : []),
  ]
    .filter((one) => one !== "")
    .join(" ");
  return (
    <section aria-live="polite">
      <h2 dir="auto">{course.title}</h2>
      <Plain>{said}</Plain>
      <TrendPlot trend={trend} says={said} large />
    </section>
  );
}
const Sheet = styled.main`
  min-block-size: 100dvh;
  padding: clamp(1rem, 3vw, 3rem);
  display: flex;
  flex-direction: column;
  gap: 1rem;
  background: var(--paper);
  font-size: 1.35rem;
  & > section {
    flex: 1;
    min-inline-size: 0;
  }
`;
const Plain = styled.p`
  font-size: clamp(1.25rem, 2.4vw, 1.75rem);
  line-height: 1.45;
  max-width: 52rem;
`;
const Back = styled.span`
  margin-inline-start: auto;
  font-size: 1rem;
`;
