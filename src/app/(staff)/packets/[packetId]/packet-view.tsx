"use client";
import { journalWords } from "@/core/audit";
import { dateWords } from "@/core/questionnaire";
import { languageName } from "@/core/shared";
import { ButtonLink } from "@/ui/kit/button-link";
import { ListLine } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { StateWords } from "@/ui/kit/state-mark";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { PacketJourney, StepAction } from "@/usecases/sending";
import { postStateWords } from "../../post-room/post-room-view";
import { PacketDoing } from "./packet-doing";
import { PacketLinks } from "./packet-links";
import { PacketNotices } from "./packet-notices";

export interface PacketViewProps {
  readonly requestId: string;
  readonly packet: PacketJourney;
}
/** What has become of a packet so far, and what may be done with it. */
export interface Standing {
  readonly closed: boolean;
  /** It can be opened and filled in. */
  readonly open: boolean;
  /** Whom it was for is gone, and nobody else has a link: it wants somebody new first. */
  readonly nobody: boolean;
}
function standingOf(packet: PacketJourney): Standing {
  const closed = ["returned", "settled", "withdrawn"].includes(packet.state);
  return {
    closed,
    open: !closed && packet.state !== "lapsed" && !packet.locked,
    nobody: packet.recipient.ended && !packet.people.some((person) => person.live),
  };
}
/** `section` says which in its own words. */
const stepWords: Readonly<Record<Exclude<StepAction, "section" | "letter" | "letter.opened">, string>> = {
  ...journalWords,
  "packet.made": "Made; no letter went out",
};

/** One packet: whom it is with, what can be done with it, and its history. */
export function PacketView({ packet, requestId }: PacketViewProps) {
  useLiveReload();
  const standing = standingOf(packet);
  const mainAction = () => {
    if (packet.state === "returned" || packet.state === "settled")
      return (
        <ButtonLink href={`/returns/${packet.id}`} weight="primary">
          Read answers
        </ButtonLink>
      );
    if (packet.look) return <ButtonLink href={`/returns/${packet.id}`}>Look at answers so far</ButtonLink>;
    return <ButtonLink href="/post-room">Post room</ButtonLink>;
  };
  return (
    <Page
      title={
        <>
          Packet for <bdi>{packet.clientName}</bdi>
        </>
      }
      margin={
        packet.visit ? (
          <>
            <Moment at={packet.visit.startsAt} />
            <br />
            {packet.visit.visitType}
          </>
        ) : undefined
      }
      actions={
        <Cluster>
          <Link href={`/people/${packet.clientId}`}>Chart</Link>
          {mainAction()}
        </Cluster>
      }
    >
      <About packet={packet} closed={standing.closed} />
      <PacketNotices packet={packet} standing={standing} />
      {standing.open && <PacketLinks packet={packet} requestId={requestId} />}
      {!standing.closed && <PacketDoing packet={packet} standing={standing} requestId={requestId} />}
      <SectionTitle>History</SectionTitle>
      <ol>
        {packet.steps.map((step) => (
          <ListLine key={step.key} margin={<Moment at={step.at} />}>
            <StepWords step={step} />
          </ListLine>
        ))}
      </ol>
    </Page>
  );
}

function StepWords({ step }: { readonly step: PacketJourney["steps"][number] }) {
  switch (step.action) {
    case "section":
      return (
        <>
          Wrote in “<bdi>{step.what}</bdi>”
        </>
      );
    case "letter":
      return (
        <>
          {letterWords[step.letter?.purpose ?? "packet"] ?? "Letter"} to <bdi>{step.who}</bdi>{" "}
          {postStateWords[step.letter?.state ?? "queued"]}
        </>
      );
    case "letter.opened":
      return (
        <>
          <bdi>{step.who}</bdi> opened the link in it
        </>
      );
    default:
      return (
        <>
          {stepWords[step.action]}
          {step.who ? (
            <Soft>
              , <bdi>{step.who}</bdi>
            </Soft>
          ) : null}
        </>
      );
  }
}
const letterWords: Readonly<Record<string, string>> = {
  packet: "Letter",
  nudge: "Reminder",
  "sent-back": "Letter with questions",
  sign: "Letter to who signs",
  signed: "Letter with the signed copy",
  "take-home": "Letter with a take-home",
  code: "Code",
};

function About({ packet, closed }: { readonly packet: PacketJourney; readonly closed: boolean }) {
  const { locale } = useTimeFrame();
  const { recipient } = packet;
  const to = [
    `To ${recipient.name}`,
    recipient.relation,
    recipient.masked,
    recipient.ended ? "who is no longer around the client" : undefined,
  ].filter(Boolean);
  return (
    <MarginRow
      margin={
        <StateWords
          mark={packet.locked ? "locked" : packet.mark}
          words={packet.locked ? "Door locked" : packet.words}
        />
      }
    >
      {packet.titles.join(", ")}
      <Soft as="p">
        {to.join(", ")}
        {closed ? null : (
          <>
            . Open until <Moment at={packet.expiresAt} as="day" />
          </>
        )}
        {packet.dueOn ? `, wanted by ${dateWords(packet.dueOn, locale)}` : ""}, in {languageName(packet.language)}.
        {packet.leaflets.length > 0 ? ` With ${packet.leaflets.join(", ")}.` : ""}
      </Soft>
      {packet.repeats && (
        <p>
          The same link asks again each session: opened on another day after it came back, it leads to a new packet.
        </p>
      )}
      {packet.personalLine && (
        <p>
          “<bdi>{packet.personalLine}</bdi>”
        </p>
      )}
    </MarginRow>
  );
}
