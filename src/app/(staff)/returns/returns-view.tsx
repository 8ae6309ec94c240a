"use client";
import { useState } from "react";
import { textOf } from "@/core/questionnaire";
import { instantMs } from "@/core/shared";
import { ButtonLink } from "@/ui/kit/button-link";
import { Alarm, ListLine, Name, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Progress } from "@/ui/kit/progress";
import { rowKeys } from "@/ui/kit/shortcuts";
import { StateWords } from "@/ui/kit/state-mark";
import { Moment } from "@/ui/kit/time";
import type { ReturnLine, ReturnsView as Shown } from "@/usecases/review";
import { ScoreWords } from "./score-words";

export function ReturnsView({
  lines,
  unreached,
  toRead,
  moreToRead,
  openAlerts,
  earlier,
  toSign,
  sealing,
}: Shown & { readonly toSign: number; readonly sealing: number }) {
  useLiveReload();
  const [shown, setShown] = useState<ShownReturns>("all");
  const unread = lines.filter((l) => l.state === "returned" && filters[shown].fits(l)).sort(byVisit);
  const others = lines.filter((l) => l.state !== "returned" && filters[shown].fits(l));
  const alarming = unread.filter((l) => l.alerts.length > 0);
  return (
    <Page
      title="Returns"
      margin={`${toRead} to read${unreached.length > 0 ? `, ${unreached.length} not reached` : ""}`}
    >
      {lines.length === 0 && (
        <MarginRow margin="">
          <p>
            Nothing came back yet. What clients return appears here at once. Send questionnaires from the{" "}
            <Link href="/day">Day sheet</Link>.
          </p>
        </MarginRow>
      )}
      <Strip as="nav" aria-label="Signatures">
        <Link href="/returns/sign">For you to sign{toSign > 0 ? `: ${toSign}` : ""}</Link>
        <Link href="/returns/check">Check a paper</Link>
        <Pick
          small
          bare
          label="Which returns"
          value={shown}
          options={Object.entries(filters).map(([value, { label }]) => ({ value, label }))}
          onChange={(value) => setShown(value as ShownReturns)}
        />
        {sealing > 0 && <Sealing left={sealing} />}
      </Strip>
      <div onKeyDown={rowKeys}>
        <Group title="Read first" lines={alarming} />
        <OpenAlerts alerts={openAlerts} />
        {unreached.length > 0 && (
          <section aria-label="Not reached">
            <SectionTitle>Not reached</SectionTitle>
            <ol>
              {unreached.map((line) => (
                <NotReached key={line.packetId} line={line} />
              ))}
            </ol>
          </section>
        )}
        <Group title="To read" lines={unread.filter((line) => !alarming.includes(line))} />
        {moreToRead > 0 && (
          <MarginRow margin="">
            <p>{moreToRead} more stand behind these, and move up as these are settled.</p>
          </MarginRow>
        )}
        <Group title="Sent back" lines={others.filter((line) => line.state === "sent-back")} />
        <Group title="Settled" lines={others.filter((line) => line.state !== "sent-back")} />
        {earlier !== undefined && (
          <MarginRow margin="">
            <Link href={`/returns?before=${encodeURIComponent(earlier)}`}>Settled earlier</Link>
          </MarginRow>
        )}
      </div>
    </Page>
  );
}

/** Read and settled, and nobody wrote yet what was done about what alarmed. */
function OpenAlerts({ alerts }: { readonly alerts: Shown["openAlerts"] }) {
  if (alerts.length === 0) return null;
  return (
    <section aria-label="Alerts still open">
      <SectionTitle>Alerts still open</SectionTitle>
      <ol>
        {alerts.map((alert) => (
          <ListLine
            key={alert.id}
            tone="attention"
            margin={<Moment at={alert.raisedAt} />}
            action={
              <ButtonLink href={`/returns/${alert.packetId}`} aria-label={`Write what was done: ${alert.clientName}`}>
                Write what was done
              </ButtonLink>
            }
          >
            <Name href={`/people/${alert.clientId}/measures`} data-row>
              <bdi>{alert.clientName}</bdi>
            </Name>{" "}
            <Alarm>{alert.about.map(({ message }) => message).join("; ") || "Answered otherwise since"}</Alarm>
          </ListLine>
        ))}
      </ol>
    </section>
  );
}

/** Which of the returns are shown. */
const filters = {
  all: { label: "all returns", fits: () => true },
  mine: { label: "mine", fits: (line: ReturnLine) => line.mine },
  uncharted: { label: "not yet charted", fits: (line: ReturnLine) => line.state === "returned" },
  unsigned: { label: "waiting for a signature", fits: (line: ReturnLine) => line.waitsForSignature },
  "sent-back": { label: "sent back", fits: (line: ReturnLine) => line.state === "sent-back" },
  intake: { label: "intakes", fits: (line: ReturnLine) => line.kinds.includes("intake") },
  consent: { label: "consents", fits: (line: ReturnLine) => line.kinds.includes("consent") },
  measure: { label: "measures", fits: (line: ReturnLine) => line.kinds.includes("measure") },
  worksheet: { label: "worksheets", fits: (line: ReturnLine) => line.kinds.includes("worksheet") },
} as const;
type ShownReturns = keyof typeof filters;
/** By the visit they are for, the nearest first; then the newest. */
function byVisit(one: ReturnLine, other: ReturnLine): number {
  const at = ({ visitAt }: ReturnLine): number => (visitAt ? instantMs(visitAt) : Infinity);
  const [first, second] = [at(one), at(other)];
  return first === second ? instantMs(other.returnedAt) - instantMs(one.returnedAt) : first - second;
}

function Group({ title, lines }: { readonly title: string; readonly lines: readonly ReturnLine[] }) {
  if (lines.length === 0) return null;
  return (
    <section aria-label={title}>
      <SectionTitle>{title}</SectionTitle>
      <ol>
        {lines.map((line) => (
          <OneReturn key={line.packetId} line={line} />
        ))}
      </ol>
    </section>
  );
}
function NotReached({ line }: { readonly line: Shown["unreached"][number] }) {
  const href = `/packets/${line.packetId}`;
  return (
    <ListLine
      tone="attention"
      margin={
        <>
          <Moment at={line.sentAt} />
          <StateWords mark={line.mark} words={line.words} />
        </>
      }
      action={
        <ButtonLink href={href} aria-label={`Reach ${line.clientName} otherwise`}>
          Reach them otherwise
        </ButtonLink>
      }
    >
      <Name href={href} data-row>
        <bdi>{line.clientName}</bdi>
      </Name>
      <Soft as="p">Nobody has opened it. Correct the address, or give them the link in another way.</Soft>
    </ListLine>
  );
}
function OneReturn({ line }: { readonly line: ReturnLine }) {
  const unread = line.state === "returned";
  // What the client is mending is not read before it comes back.
  const away = line.state === "sent-back";
  const href = `/${away ? "packets" : "returns"}/${line.packetId}`;
  return (
    <ListLine
      tone={unread && line.alerts.length > 0 ? "attention" : "plain"}
      margin={
        <>
          <Moment at={line.returnedAt} />
          <StateWords mark={line.state} words={line.stateWords} />
        </>
      }
      action={
        <ButtonLink
          href={href}
          weight={unread ? "primary" : "plain"}
          aria-label={`${away ? "Packet of" : "Read"} ${line.clientName}`}
        >
          {away ? "Packet" : "Read"}
        </ButtonLink>
      }
    >
      <Cluster $gap="0 0.75rem">
        <Name href={href} data-row>
          <bdi>{line.clientName}</bdi>
        </Name>
        <Soft>
          {line.visitAt ? (
            <>
              {line.visitType}, <Moment at={line.visitAt} />
            </>
          ) : null}
        </Soft>
        {line.scores.map((score) => (
          <ScoreWords key={score.linkId} score={score} />
        ))}
      </Cluster>
      <Soft as="p">{line.titles.join(", ")}</Soft>
      {line.alerts.map((alert) => (
        <p key={alert.key}>
          <Alarm>{alert.message}:</Alarm> {alert.answer ? `“${textOf(alert.answer)}”` : "left open"}
        </p>
      ))}
    </ListLine>
  );
}
/** How many of those that were due since one looks are sealed. */
function Sealing({ left }: { readonly left: number }) {
  const [all, setAll] = useState(left);
  if (left > all) setAll(left);
  const words = left === 1 ? "One signed paper is being sealed." : `${left} signed papers are being sealed.`;
  return (
    <div style={{ minInlineSize: "14rem" }}>
      <Soft role="status">{words}</Soft>
      {all > 1 && <Progress label="Papers sealed" done={all - left} all={all} />}
    </div>
  );
}
