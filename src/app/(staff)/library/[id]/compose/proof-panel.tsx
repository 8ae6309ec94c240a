"use client";
import { memo } from "react";
import styled from "styled-components";
import type { Finding, ProofReport } from "@/core/proof";
import { MarginRow, Soft } from "@/ui/kit/page";

/** What Proof found, errors first, and the facts it computed. A finding leads to its line. */
export const ProofPanel = memo(function ProofPanel({
  report,
  onGo,
}: {
  readonly report: ProofReport | undefined;
  readonly onGo?: (linkId: string) => void;
}) {
  if (!report)
    return (
      <MarginRow margin="">
        <Soft>Checking…</Soft>
      </MarginRow>
    );
  const { facts, findings } = report;
  const count = facts.fewest === facts.most ? `${facts.most}` : `${facts.fewest} to ${facts.most}`;
  return (
    <>
      <MarginRow margin="Facts">
        A client meets {facts.exact ? "" : "about "}
        {count} {facts.most === 1 ? "question" : "questions"}, which takes about {facts.minutes}{" "}
        {facts.minutes === 1 ? "minute" : "minutes"}.
        {facts.scores.map(
          (s) =>
            s.range && (
              <span key={s.linkId}>
                {" "}
                {s.title || "The score"} can be {Number(s.range.low.toFixed(2))} to {Number(s.range.high.toFixed(2))}.
              </span>
            ),
        )}
      </MarginRow>
      {findings.length === 0 && <MarginRow margin={<Fine>Checked</Fine>}>No problems found.</MarginRow>}
      {grouped(findings).map((alike, i) =>
        alike.length > mostAlike ? (
          <Alike key={i} findings={alike} onGo={onGo} />
        ) : (
          alike.map((f, n) => (
            <Found key={`${i} ${n}`} level={f.level} linkId={f.linkId} message={f.message} onGo={onGo} />
          ))
        ),
      )}
    </>
  );
});
/** More warnings of one kind than these are said in one line, and told one by one when it is opened. */
const mostAlike = 3;
function grouped(findings: readonly Finding[]): readonly (readonly Finding[])[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    // An error is never folded away.
    const kind = finding.level === "error" ? `error ${groups.size}` : finding.code;
    groups.set(kind, [...(groups.get(kind) ?? []), finding]);
  }
  return [...groups.values()];
}
function Alike({
  findings,
  onGo,
}: {
  readonly findings: readonly Finding[];
  readonly onGo: ((linkId: string) => void) | undefined;
}) {
  return (
    <MarginRow margin={<Soft>{findings.length} warnings</Soft>}>
      <details>
        <Sum>
          {findings[0]!.message} <Soft>And {findings.length - 1} more like it.</Soft>
        </Sum>
        <ul>
          {findings.map((f, i) => (
            <li key={i}>
              <Message linkId={f.linkId} message={f.message} onGo={onGo} />
            </li>
          ))}
        </ul>
      </details>
    </MarginRow>
  );
}
// Hundreds in a long questionnaire, of which a change touches one or two.
const Found = memo(function Found({
  level,
  linkId,
  message,
  onGo,
}: {
  readonly level: "error" | "warning";
  readonly linkId: string | undefined;
  readonly message: string;
  readonly onGo: ((linkId: string) => void) | undefined;
}) {
  return (
    <MarginRow margin={level === "error" ? <Bad>Error</Bad> : <Soft>Warning</Soft>}>
      <Message linkId={linkId} message={message} onGo={onGo} />
    </MarginRow>
  );
});
function Message({
  linkId,
  message,
  onGo,
}: {
  readonly linkId: string | undefined;
  readonly message: string;
  readonly onGo: ((linkId: string) => void) | undefined;
}) {
  if (linkId === undefined || !onGo) return message;
  return (
    <Go type="button" onClick={() => onGo(linkId)}>
      {message}
    </Go>
  );
}
const Sum = styled.summary`
  cursor: pointer;
`;
const Fine = styled.span`
  color: var(--fern);
  font-weight: 600;
`;
const Bad = styled.span`
  color: var(--madder);
  font-weight: 600;
`;
const Go = styled.button`
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  min-height: 1.5rem;
  text-align: start;
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: var(--rule-strong);
  text-underline-offset: 0.2em;
`;
