"use client";
import { useState, useTransition } from "react";
import styled from "styled-components";
import {
  bandOf,
  changeIn,
  courseKey,
  isScored,
  lastChange,
  pointsText,
  signedText,
  stateWords,
  type Course,
} from "@/core/measures";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { Alarm, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { MarginRow, SectionTitle, Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { StartItem, StartPart, VisitStart as Start } from "@/usecases/measures";
import { AlertsOpen } from "../../alerts-open";
import { checkVisitAction } from "../actions";

/** Before the first word is said: what stands out of what they answered, and what became of it. */
export function VisitStart({ start, visitId }: { readonly start: Start; readonly visitId: string }) {
  return (
    <>
      <AlertsOpen alerts={start.alerts} />
      {start.checklist.length > 0 && <Checklist start={start} visitId={visitId} />}
      {start.parts.map((part) => (
        <OnePart key={`${part.packetId} ${part.title}`} part={part} clientId={start.clientId} />
      ))}
      <Strip as="nav" aria-label="For the start">
        {start.lastNote && (
          <Link href={`/notes/${start.lastNote.id}`}>
            Last note, <Moment at={start.lastNote.at} as="day" />
          </Link>
        )}
        <Link href={`/people/${start.clientId}/measures`}>Measures</Link>
        <Link href={`/people/${start.clientId}`}>Chart</Link>
      </Strip>
      {start.askedFor.map(({ label, words }) => (
        <MarginRow key={label} margin={label}>
          <span dir="auto">{words}</span>
        </MarginRow>
      ))}
    </>
  );
}
function OnePart({ part, clientId }: { readonly part: StartPart; readonly clientId: string }) {
  return (
    <section aria-label={part.title}>
      <SectionTitle>
        {part.title}{" "}
        <Soft>
          <Link href={`/returns/${part.packetId}`}>
            returned <Moment at={part.at} />
          </Link>
        </Soft>
      </SectionTitle>
      {part.alarms.map(({ message, question, answer }) => (
        <p key={`${message} ${question}`}>
          <Alarm>{message}.</Alarm> {answer !== "" && <>“{answer}” to: </>}
          <span dir="auto">{question}</span>
        </p>
      ))}
      {part.courses.map((course) => (
        <ScoreLine key={course.linkId} course={course} clientId={clientId} />
      ))}
      {part.turned && <p>Turned round: the last step went the other way than the one before.</p>}
      {part.items.length > 0 && (
        <Items aria-label="Answers to look at first">
          {part.items.map((item) => (
            <li key={item.text}>
              <span dir="auto">{item.text}</span>{" "}
              {item.before && item.before.number !== item.now.number && <Soft>{given(item.before)} → </Soft>}
              <strong>{given(item.now)}</strong>
            </li>
          ))}
        </Items>
      )}
      {part.written.map(({ question, answer }) => (
        <p key={question}>
          <Soft dir="auto">{question}</Soft> <span dir="auto">“{answer}”</span>
        </p>
      ))}
    </section>
  );
}
/** Where the answer is the number itself, it is not said twice. */
const given = ({ words, number }: NonNullable<StartItem["before"]>): string =>
  words === String(number) ? words : `${words} (${number})`;
function ScoreLine({ course, clientId }: { readonly course: Course; readonly clientId: string }) {
  const last = course.points.at(-1)!;
  const band = bandOf(course, last);
  const [before, first] = [lastChange(course), changeIn(course)];
  return (
    <p>
      <Link href={`/people/${clientId}/measures?of=${courseKey(course)}`}>{course.title}</Link>{" "}
      {isScored(last) ? (
        <strong>
          {pointsText(last.value)}
          {band !== "" && `, ${band}`}
        </strong>
      ) : (
        <>
          not scorable, {last.answered} of {last.items} answered
        </>
      )}
      {isScored(last) && before.known && (
        <Soft>
          {" "}
          last time {pointsText(before.from.value)}, {signedText(before.change.difference)}
        </Soft>
      )}
      {isScored(last) && first.known && (
        <>
          <Soft>; since the first, {signedText(first.change.difference)}: </Soft>
          {first.change.state === "worse" ? <Alarm>{stateWords(first)}</Alarm> : stateWords(first)}
        </>
      )}
    </p>
  );
}
function Checklist({ start, visitId }: { readonly start: Start; readonly visitId: string }) {
  const [ticked, setTicked] = useState<readonly string[]>(start.checks?.ticked ?? []);
  const [failed, setFailed] = useState(false);
  const [busy, begin] = useTransition();
  const lines = [...new Set([...start.checklist, ...(start.checks?.ticked ?? [])])];
  return (
    <>
      <CheckboxGroup
        label="Before you begin the call"
        options={lines.map((line) => ({ value: line, label: line }))}
        value={[...ticked]}
        onChange={(now) => {
          setTicked(now);
          begin(async () => setFailed(!(await checkVisitAction({ visitId, ticked: now }))));
        }}
      />
      <Soft role="status">
        {failed && "Not kept: tick again."}
        {busy && "Keeping…"}
      </Soft>
    </>
  );
}
const Items = styled.ul`
  & > li {
    padding-block: 0.1rem;
    border-block-end: 1px solid var(--rule);
  }
`;
