"use client";
import { Link } from "@/ui/link";
import styled from "styled-components";
import type { PacketState } from "@/core/packet";
import { textOf } from "@/core/questionnaire";
import type { Alert, Score } from "@/core/scoring";
import type { Id, Instant } from "@/core/shared";
import { ButtonLink } from "@/ui/button";
import { useLiveReload } from "@/ui/live";
import { MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { rowKeys } from "@/ui/shortcuts";
import { StateWords } from "@/ui/state-mark";
import { Moment } from "@/ui/time";

export interface ReturnRow {
  readonly packetId: Id<"Packet">;
  readonly clientName: string;
  readonly state: PacketState;
  readonly stateWords: string;
  readonly returnedAt: Instant;
  readonly visitAt: Instant | undefined;
  readonly visitType: string | undefined;
  readonly titles: readonly string[];
  readonly scores: readonly Score[];
  readonly alerts: readonly Alert[];
}
export function ReturnsView({ lines }: { readonly lines: readonly ReturnRow[] }) {
  useLiveReload();
  const first = lines.filter((l) => l.alerts.length > 0 && l.state === "returned");
  const unread = lines.filter((l) => l.alerts.length === 0 && l.state === "returned");
  const settled = lines.filter((l) => l.state !== "returned");
  return (
    <Page title="Returns" margin={`${first.length + unread.length} to read`}>
      {lines.length === 0 && (
        <MarginRow margin="">
          <p>
            Nothing came back yet. What clients return appears here at once. Send questionnaires from the{" "}
            <Link href="/day">Day sheet</Link>.
          </p>
        </MarginRow>
      )}
      <div onKeyDown={rowKeys}>
        {first.length > 0 && (
          <>
            <SectionTitle>Read first</SectionTitle>
            <Rows lines={first} />
          </>
        )}
        {unread.length > 0 && (
          <>
            <SectionTitle>To read</SectionTitle>
            <Rows lines={unread} />
          </>
        )}
        {settled.length > 0 && (
          <>
            <SectionTitle>Settled</SectionTitle>
            <Rows lines={settled} />
          </>
        )}
      </div>
    </Page>
  );
}

function Rows({ lines }: { readonly lines: readonly ReturnRow[] }) {
  return (
    <ol>
      {lines.map((line) => (
        <li key={line.packetId}>
          <MarginRow
            tone={line.alerts.length > 0 && line.state === "returned" ? "attention" : "plain"}
            margin={
              <Inset>
                <Moment at={line.returnedAt} />
                <br />
                <StateWords mark={line.state} words={line.stateWords} />
              </Inset>
            }
          >
            <Row>
              <Stack $gap="0.3rem">
                <Client href={`/returns/${line.packetId}`} data-row>
                  <bdi>{line.clientName}</bdi>
                </Client>
                <Soft>
                  {line.visitAt ? (
                    <>
                      {line.visitType}, <Moment at={line.visitAt} />.{" "}
                    </>
                  ) : null}
                  {line.titles.join(", ")}
                </Soft>
                {line.alerts.map((a) => (
                  <AlertLine key={a.key}>
                    <strong>{a.message}:</strong> “{textOf(a.answer)}”
                  </AlertLine>
                ))}
                {line.scores.map((s) => (
                  <ScoreWords key={s.linkId} score={s} />
                ))}
              </Stack>
              <ButtonLink
                href={`/returns/${line.packetId}`}
                weight={line.state === "returned" ? "primary" : "plain"}
                aria-label={`Read ${line.clientName}`}
              >
                Read
              </ButtonLink>
            </Row>
          </MarginRow>
        </li>
      ))}
    </ol>
  );
}
export function ScoreWords({ score }: { readonly score: Score }) {
  return (
    <p>
      {score.title} <Total>{score.value ?? "not given"}</Total>
      {score.value === undefined ? (
        <Soft>
          {" "}
          ({score.answered} of {score.items} items answered)
        </Soft>
      ) : (
        <>
          {" "}
          <Soft>of {score.range[1]}</Soft>
          {score.band ? (
            <>
              , <strong>{score.band.label}</strong>
            </>
          ) : null}
        </>
      )}
    </p>
  );
}
const Inset = styled.div`
  padding-inline-start: 0.6rem;
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  align-items: flex-start;
  justify-content: space-between;
  padding-inline-end: 0.6rem;
  & > :first-child {
    flex: 1 1 20rem;
  }
`;
const Client = styled(Link)`
  font: 600 1.12rem/1.3 var(--serif);
  color: var(--ink);
  text-decoration-color: var(--rule-strong);
`;
export const AlertLine = styled.p`
  color: var(--madder);
  &::before {
    content: "▲ ";
    font-size: 0.85em;
  }
`;
const Total = styled.strong`
  font-size: 1.15em;
  font-variant-numeric: tabular-nums;
`;
