"use client";
import { Link } from "@/ui/link";
import { useState, useTransition } from "react";
import type { PostPurpose, PostState } from "@/core/messages";
import { journalWords } from "@/core/audit";
import type { StepAction } from "@/usecases/sending";
import type { Door, LinkRole, PacketState } from "@/core/packet";
import { languageName, type Id, type Instant } from "@/core/shared";
import { dateWords } from "@/core/questionnaire";
import { dayIn } from "@/core/scheduling";
import { Button, ButtonLink } from "@/ui/button";
import { ActionForm } from "@/ui/form";
import { DateField } from "@/ui/date-field";
import { RadioGroup, TextField } from "@/ui/fields";
import { useLiveReload } from "@/ui/live";
import { Notice } from "@/ui/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { StateWords } from "@/ui/state-mark";
import { Moment, useTimeFrame } from "@/ui/time";
import { NewRelation } from "../../send/new-relation";
import {
  copyLinkAction,
  extendAction,
  giveLinkAction,
  handOverAction,
  nudgeAction,
  readOutAction,
  reissueAction,
  unlockAction,
  withdrawAction,
  type NudgeState,
} from "./actions";

/** `section` says which in its own words. */
const stepWords: Readonly<Record<Exclude<StepAction, "section">, string>> = {
  ...journalWords,
  "packet.made": "Made; no letter went out",
};
interface Person {
  readonly relationId: Id<"Relation"> | null;
  readonly name: string;
  readonly kind: string | undefined;
  readonly role: LinkRole;
  readonly live: boolean;
  readonly masked: string | undefined;
}
const linkWords: Readonly<Record<Door["way"], string>> = {
  code: "Whoever opens it still has to prove who they are: a code goes to the contact on file, not to where you send the link.",
  details: "Whoever opens it still has to prove who they are, by details that both of you know.",
  "read-out": "Whoever opens it still has to prove who they are, by a code that you read out to them.",
  none: "Its door stands open: whoever has this link gets in. Give it to nobody else.",
};
export interface PacketViewProps {
  readonly requestId: string;
  readonly packet: {
    readonly id: Id<"Packet">;
    readonly clientId: Id<"Client">;
    readonly clientName: string;
    readonly state: PacketState;
    readonly stateWords: string;
    readonly locked: boolean;
    readonly expiresAt: Instant;
    readonly titles: readonly string[];
    readonly visit:
      { readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string } | undefined;
    readonly recipient: {
      readonly name: string;
      readonly relation: string | undefined;
      readonly masked: string | undefined;
      readonly ended: boolean;
    };
    readonly reached: readonly { readonly role: LinkRole; readonly masked: string }[];
    readonly people: readonly Person[];
    readonly others: readonly {
      readonly relationId: Id<"Relation"> | null;
      readonly name: string;
      readonly kind: string;
      readonly masked: string | undefined;
    }[];
    readonly repeats: boolean;
    readonly leaflets: readonly string[];
    readonly look: boolean;
    readonly dueOn: string | null;
    readonly language: string;
    readonly personalLine: string | undefined;
    readonly lastLetterAt: Instant;
    readonly letters: readonly {
      readonly id: string;
      readonly at: Instant;
      readonly purpose: PostPurpose;
      readonly state: PostState;
      readonly openedAt: Instant | null;
      readonly trouble: string | null;
    }[];
    readonly steps: readonly {
      readonly at: Instant;
      readonly action: StepAction;
      readonly key: string;
      readonly what?: string;
    }[];
  };
}
const masks = (reached: PacketViewProps["packet"]["reached"]): string => reached.map((r) => r.masked).join(", ");
export function PacketView({ packet, requestId }: PacketViewProps) {
  useLiveReload();
  const frame = useTimeFrame();
  const [until, setUntil] = useState(() => dayIn(packet.expiresAt, frame.zone));
  const back = packet.state === "returned" || packet.state === "settled";
  const closed = back || packet.state === "withdrawn";
  // Whom it was for is gone, and nobody else has a link: it wants somebody new first.
  const nobody = packet.recipient.ended && !packet.people.some((p) => p.live);
  const mainAction = () => {
    if (back)
      return (
        <ButtonLink href={`/returns/${packet.id}`} weight="primary">
          Read what came back
        </ButtonLink>
      );
    if (packet.look) return <ButtonLink href={`/returns/${packet.id}`}>Look at it now</ButtonLink>;
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
      actions={mainAction()}
    >
      <MarginRow
        margin={
          <StateWords
            mark={packet.locked ? "locked" : packet.state}
            words={packet.locked ? "Door locked" : packet.stateWords}
          />
        }
      >
        <ul>
          {packet.titles.map((t) => (
            <li key={t}>{t}</li>
          ))}
        </ul>
        <Soft>
          To {packet.recipient.name}
          {packet.recipient.relation ? `, ${packet.recipient.relation}` : ""}
          {packet.recipient.masked ? `, ${packet.recipient.masked}` : ""}
          {packet.recipient.ended ? ", who is no longer around the client" : ""}
          {closed ? null : (
            <>
              . Open until <Moment at={packet.expiresAt} as="day" />
            </>
          )}
          {packet.dueOn ? `, wanted by ${dateWords(packet.dueOn, frame.locale)}` : ""}, in{" "}
          {languageName(packet.language)}.
        </Soft>
        {packet.repeats && (
          <p>
            The same link asks again each session: opened on another day after it came back, it leads to a new packet.
          </p>
        )}
        {packet.leaflets.length > 0 && <Soft>With {packet.leaflets.join(", ")}.</Soft>}
        {packet.personalLine && (
          <p>
            “<bdi>{packet.personalLine}</bdi>”
          </p>
        )}
      </MarginRow>
      {nobody && !closed && (
        <MarginRow margin="Nobody has it" tone="attention">
          <Notice tone="attention">
            <strong>{packet.recipient.name} is no longer around the client, and their link is closed.</strong>{" "}
            {packet.state === "lapsed"
              ? "Keep it open longer, then give somebody else a link"
              : "Give somebody else a link below"}
            , or withdraw it. What was answered before is kept.
          </Notice>
        </MarginRow>
      )}
      {packet.state === "ready" && !nobody && (
        <MarginRow margin="Not sent yet" tone="attention">
          <Notice tone="attention">
            <strong>No letter went out.</strong> Copy a link below and give it to them in your own way, or hand this
            device over to them.
          </Notice>
        </MarginRow>
      )}
      {packet.locked && !closed && (
        <MarginRow margin="What happened" tone="attention">
          <Notice tone="attention">
            <strong>Five wrong codes were typed, so the page is locked.</strong> Nobody got in. Ask{" "}
            {packet.recipient.name} whether it was them. If so, let them try again, or send a fresh link; if not, send a
            fresh link: the old one stops working. What was answered before is kept.
          </Notice>
          <div style={{ marginBlockStart: "0.75rem" }}>
            <ActionForm
              action={unlockAction}
              submit="It was them: let them try again"
              weight="plain"
              hidden={{ packetId: packet.id }}
            />
          </div>
        </MarginRow>
      )}
      {packet.letters
        .filter((l) => l.state !== "delivered")
        .map((line) => {
          const fateWords = () => {
            if (line.state === "bounced") return "bounced";
            if (line.state === "unsure") return "may not have arrived";
            return "is waiting";
          };
          return (
            <MarginRow key={line.id} margin={<Moment at={line.at} />} tone="attention">
              <Notice tone="attention">
                <strong>A letter {fateWords()}.</strong> {line.trouble} <Link href="/post-room">Post room</Link>
              </Notice>
            </MarginRow>
          );
        })}
      <SectionTitle>Its journey</SectionTitle>
      <ol>
        {packet.steps.map((step) => (
          <li key={step.key}>
            <MarginRow margin={<Moment at={step.at} />}>
              {step.action !== "section" ? (
                stepWords[step.action]
              ) : (
                <>
                  Wrote in “<bdi>{step.what}</bdi>”
                </>
              )}
            </MarginRow>
          </li>
        ))}
      </ol>
      {!closed && <SectionTitle>What you can do</SectionTitle>}
      {!closed && packet.state !== "lapsed" && !packet.locked && <Links packet={packet} requestId={requestId} />}
      {!closed && packet.state !== "lapsed" && packet.state !== "ready" && !packet.locked && !nobody && (
        <Reminding packet={packet} requestId={requestId} />
      )}
      {!closed && packet.state !== "lapsed" && packet.state !== "ready" && !packet.locked && !nobody && (
        <ReadingOut packetId={packet.id} />
      )}
      {!closed && packet.state !== "lapsed" && !packet.locked && !packet.recipient.ended && (
        <MarginRow margin="They are here">
          <Stack $gap="0.6rem">
            <p>
              Open it on this device and hand it to <bdi>{packet.recipient.name}</bdi>. No code is asked, since you see
              who it is. You are signed out here first, and they get to see nothing else.
            </p>
            <div>
              <ActionForm
                action={handOverAction}
                submit="Hand over this device"
                weight="plain"
                hidden={{ packetId: packet.id }}
              />
            </div>
          </Stack>
        </MarginRow>
      )}
      {!closed && (
        <MarginRow margin="Time">
          <ActionForm
            action={extendAction}
            submit="Keep it open until then"
            weight="plain"
            hidden={{ packetId: packet.id, expiresOn: until }}
          >
            <div style={{ maxInlineSize: "16rem" }}>
              <DateField label="Open until" value={until} onChange={setUntil} locale={frame.locale} />
            </div>
          </ActionForm>
        </MarginRow>
      )}
      {!closed && (
        <MarginRow margin="Take it back">
          <details>
            <summary>Withdraw this packet</summary>
            <Stack $gap="0.6rem">
              <p>
                Its links stop working at once, and it cannot be answered any more. That cannot be undone; you can send
                a new one.
              </p>
              <ActionForm
                action={withdrawAction}
                submit="Withdraw it"
                weight="danger"
                hidden={{ packetId: packet.id }}
              />
            </Stack>
          </details>
        </MarginRow>
      )}
      {!closed && !nobody && (
        <MarginRow margin="If it went astray">
          <p>
            A fresh link goes to {masks(packet.reached) || "nobody: there is no contact on file"}. The old link stops
            working, and answers given so far stay.
          </p>
          <div style={{ marginBlockStart: "0.75rem" }}>
            <ActionForm
              action={reissueAction}
              submit="Send a fresh link"
              weight={packet.locked || packet.state === "lapsed" ? "primary" : "plain"}
              hidden={{ packetId: packet.id, requestId }}
              disabled={packet.reached.length === 0}
            />
          </div>
        </MarginRow>
      )}
      <p style={{ paddingBlockStart: "1rem" }}>
        <Link href={`/people/${packet.clientId}`}>
          Open the chart of <bdi>{packet.clientName}</bdi>
        </Link>
      </p>
    </Page>
  );
}

/** Who has a link, and a link for somebody more or for a channel of one's own. */
function Links({ packet, requestId }: PacketViewProps) {
  const [copied, setCopied] = useState<{ readonly name: string; readonly link: string; readonly way: Door["way"] }>();
  const live = packet.people.filter((p) => p.live);
  const mine =
    live.length > 0 || packet.recipient.ended
      ? live
      : [
          {
            ...(packet.others.find((o) => o.name === packet.recipient.name) ?? packet.others[0]!),
            role: "fills" as const,
            live: true,
          },
        ];
  return (
    <MarginRow margin="Who has a link">
      <Stack $gap="0.8rem">
        {mine.length === 0 && <p>Nobody, any more.</p>}
        <ul>
          {mine.map((person) => (
            <li key={person.relationId ?? "client"}>
              <Cluster $gap="0.4rem 1rem">
                <span>
                  <bdi>{person.name}</bdi>{" "}
                  <Soft>
                    {person.kind && person.kind !== "client" ? `${person.kind}, ` : ""}
                    {person.role === "fills" ? "fills in" : "reads only"}
                    {person.masked ? `, ${person.masked}` : ""}
                  </Soft>
                </span>
                <CopyLink
                  packetId={packet.id}
                  person={person}
                  onLink={(made) => setCopied({ name: person.name, ...made })}
                />
              </Cluster>
            </li>
          ))}
        </ul>
        {copied && (
          <Notice tone="attention">
            <Stack $gap="0.5rem">
              <strong>
                A link of <bdi>{copied.name}</bdi>’s own. It is shown this once.
              </strong>
              <TextField label="Their link" value={copied.link} onChange={() => undefined} dir="ltr" />
              <span>{linkWords[copied.way]}</span>
            </Stack>
          </Notice>
        )}
        <details>
          <summary>Give somebody else a link</summary>
          <Stack $gap="1rem">
            <p>
              They get one copy together. Each has a link and a door check of their own, sees what the others write, and
              every answer shows who gave it.
            </p>
            {packet.others.map((option) => (
              <ActionForm
                key={option.relationId ?? "client"}
                action={giveLinkAction}
                submit={`Send ${option.name} a link`}
                weight="plain"
                disabled={!option.masked}
                hidden={{
                  packetId: packet.id,
                  requestId: `${(option.relationId ?? packet.clientId).slice(0, 8)}${requestId.slice(8)}`,
                  relationId: option.relationId ?? "",
                }}
              >
                <RadioGroup
                  name="role"
                  inline
                  label={`${option.name}, ${option.kind}${option.masked ? `, ${option.masked}` : ", cannot be reached"}`}
                  defaultValue="fills"
                  options={[
                    { value: "fills", label: "Fills in" },
                    { value: "reads", label: "Reads only" },
                  ]}
                />
              </ActionForm>
            ))}
            <NewRelation key={packet.others.length} clientId={packet.clientId} requestId={requestId} />
          </Stack>
        </details>
        <Link href={`/people/${packet.clientId}/reach`}>Change how they are reached</Link>
      </Stack>
    </MarginRow>
  );
}
function CopyLink({
  packetId,
  person,
  onLink,
}: {
  readonly packetId: Id<"Packet">;
  readonly person: { readonly relationId: Id<"Relation"> | null; readonly name: string; readonly role: LinkRole };
  readonly onLink: (made: { readonly link: string; readonly way: Door["way"] }) => void;
}) {
  const [busy, start] = useTransition();
  const [said, setSaid] = useState<string>();
  return (
    <>
      <Button
        weight="quiet"
        busy={busy}
        aria-label={`Copy a link for ${person.name}`}
        onPress={() =>
          start(async () => {
            const made = await copyLinkAction({ packetId, relationId: person.relationId, role: person.role });
            if (typeof made === "string") {
              setSaid(made);
              return;
            }
            onLink(made);
            await navigator.clipboard.writeText(made.link).then(
              () => setSaid("Copied."),
              () => setSaid(undefined),
            );
          })
        }
      >
        Copy a link
      </Button>
      {said && <Soft role="status">{said}</Soft>}
    </>
  );
}

/** A reminder; within a day of the last letter it is asked whether that is meant. */
function Reminding({ packet, requestId }: PacketViewProps) {
  const [soon, setSoon] = useState(false);
  const reminded = packet.reached.filter((r) => r.role === "fills");
  return (
    <MarginRow
      margin={
        <>
          Last letter
          <br />
          <Moment at={packet.lastLetterAt} />
        </>
      }
    >
      <Stack $gap="0.6rem">
        <p>
          A reminder goes to {masks(reminded) || "nobody"} with a link of its own. The one they have goes on working.
        </p>
        {soon && <Notice tone="attention">Their last letter is not a day old. Remind them again all the same?</Notice>}
        <ActionForm
          action={async (before, sent) => {
            const answer: NudgeState = await nudgeAction(before, sent);
            setSoon(answer.soon === true);
            return answer;
          }}
          submit={soon ? "Yes, remind them again" : "Remind them"}
          weight="plain"
          hidden={{ packetId: packet.id, requestId, confirmed: soon ? "yes" : "" }}
          disabled={reminded.length === 0}
        />
      </Stack>
    </MarginRow>
  );
}

/** A code for somebody staff know by voice or sight. */
function ReadingOut({ packetId }: { readonly packetId: Id<"Packet"> }) {
  const [made, setMade] = useState<Awaited<ReturnType<typeof readOutAction>>>();
  const [busy, start] = useTransition();
  return (
    <MarginRow margin="Cannot get a code?">
      <Stack $gap="0.6rem">
        <p>If you are sure whom you speak to, read a code out to them. It works for 10 minutes.</p>
        {made &&
          (typeof made === "string" ? (
            <Notice tone="problem">{made}</Notice>
          ) : (
            <p role="status">
              Read out:{" "}
              <strong className="figures" style={{ fontSize: "1.6rem", letterSpacing: "0.15em" }}>
                {made.code.slice(0, 3)} {made.code.slice(3)}
              </strong>{" "}
              <Soft>
                until <Moment at={made.until} />
              </Soft>
            </p>
          ))}
        <div>
          <Button
            busy={busy}
            onPress={() =>
              start(async () => {
                setMade(await readOutAction(packetId));
              })
            }
          >
            Make a code to read out
          </Button>
        </div>
      </Stack>
    </MarginRow>
  );
}
