"use client";
import { useState, useTransition, type ReactNode } from "react";
import styled from "styled-components";
import { dayIn } from "@/core/scheduling";
import type { Id } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { DateField } from "@/ui/kit/date-field";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { PacketJourney } from "@/usecases/sending";
import {
  extendAction,
  handOverAction,
  nudgeAction,
  readOutAction,
  reissueAction,
  withdrawAction,
  type NudgeState,
} from "./actions";
import type { PacketViewProps, Standing } from "./packet-view";

const masks = (reached: PacketJourney["reached"]): string => reached.map((one) => one.masked).join(", ");

/** What can be done with a packet, by how often it is needed; each with what it does, said before it is pressed. */
export function PacketDoing({ packet, standing, requestId }: PacketViewProps & { readonly standing: Standing }) {
  const { open, nobody } = standing;
  const out = open && packet.state !== "ready" && !nobody;
  return (
    <MarginRow margin="Actions">
      <Lines>
        {out && <Remind packet={packet} requestId={requestId} />}
        {open && !packet.recipient.ended && (
          <Doing
            does={
              <>
                Opens it on this device for <bdi>{packet.recipient.name}</bdi>, without a code, since you see who it is.
                You are signed out here first; they see nothing else
                {packet.maySee ? "" : ", and nothing that was on file or answered before: they begin anew"}.
              </>
            }
          >
            <ActionForm
              action={handOverAction}
              submit="Hand over this device"
              weight="plain"
              hidden={{ packetId: packet.id }}
            />
          </Doing>
        )}
        {out && <ReadOut packetId={packet.id} maySee={packet.maySee} />}
        {!nobody && (
          <Doing
            does={`Wrong person or lost link: a fresh link goes to ${masks(packet.reached) || "nobody: there is no contact on file"}. The old link stops working, and answers given so far stay.`}
          >
            <ActionForm
              action={reissueAction}
              submit="Send a fresh link"
              weight={packet.locked || packet.state === "lapsed" ? "primary" : "plain"}
              hidden={{ packetId: packet.id, requestId }}
              disabled={packet.reached.length === 0}
            />
          </Doing>
        )}
        <Extend packet={packet} />
        <Withdraw packetId={packet.id} />
      </Lines>
    </MarginRow>
  );
}

function Doing({ children, does }: { readonly children: ReactNode; readonly does: ReactNode }) {
  return (
    <div>
      <div>{children}</div>
      <Soft as="div">{does}</Soft>
    </div>
  );
}

/** A reminder; within a day of the last letter it is asked whether that is meant. */
function Remind({ packet, requestId }: PacketViewProps) {
  const [soon, setSoon] = useState(false);
  const reminded = packet.reached.filter((one) => one.role === "fills");
  return (
    <Doing
      does={
        <>
          A reminder goes to {masks(reminded) || "nobody"} with a link of its own; the one they have goes on working.
          Last letter <Moment at={packet.lastLetterAt} />.
          {soon && <Notice tone="attention">Their last letter is not a day old. Remind again all the same?</Notice>}
        </>
      }
    >
      <ActionForm
        action={async (before, sent) => {
          const answer: NudgeState = await nudgeAction(before, sent);
          setSoon(answer.soon === true);
          return answer;
        }}
        submit={soon ? "Yes, remind again" : "Remind"}
        weight="plain"
        hidden={{ packetId: packet.id, requestId, confirmed: soon ? "yes" : "" }}
        disabled={reminded.length === 0}
      />
    </Doing>
  );
}

/** A code for somebody staff know by voice or sight. */
function ReadOut({ packetId, maySee }: { readonly packetId: Id<"Packet">; readonly maySee: boolean }) {
  const [made, setMade] = useState<Awaited<ReturnType<typeof readOutAction>>>();
  const [busy, start] = useTransition();
  const says = () => {
    if (made === undefined)
      return `For somebody you know by voice or sight who gets no code. It works for 10 minutes${
        maySee ? "" : "; what was on file or answered before is not shown to them, and they begin anew"
      }.`;
    if (typeof made === "string") return <Notice tone="problem">{made}</Notice>;
    return (
      <span role="status">
        Read out:{" "}
        <Code className="figures">
          {made.code.slice(0, 3)} {made.code.slice(3)}
        </Code>{" "}
        until <Moment at={made.until} />
      </span>
    );
  };
  return (
    <Doing does={says()}>
      <Button busy={busy} onPress={() => start(async () => setMade(await readOutAction(packetId)))}>
        Read a code out
      </Button>
    </Doing>
  );
}

function Extend({ packet }: { readonly packet: PacketJourney }) {
  const frame = useTimeFrame();
  const [until, setUntil] = useState(() => dayIn(packet.expiresAt, frame.zone));
  return (
    <Fold>
      <summary>Extend</summary>
      <ActionForm
        action={extendAction}
        submit="Extend"
        weight="plain"
        hidden={{ packetId: packet.id, expiresOn: until }}
      >
        <div style={{ maxInlineSize: "16rem" }}>
          <DateField label="Open until" value={until} onChange={setUntil} locale={frame.locale} />
        </div>
      </ActionForm>
    </Fold>
  );
}

function Withdraw({ packetId }: { readonly packetId: Id<"Packet"> }) {
  return (
    <Fold>
      <summary>Withdraw</summary>
      <Stack $gap="0.6rem">
        <p>
          Its links stop working at once, and it cannot be answered any more. That cannot be undone; you can send a new
          one.
        </p>
        <ActionForm action={withdrawAction} submit="Withdraw packet" weight="danger" hidden={{ packetId }} />
      </Stack>
    </Fold>
  );
}
const Lines = styled.div`
  display: grid;
  gap: 0.35rem;
  & > div {
    display: grid;
    grid-template-columns: 12.5rem minmax(0, 1fr);
    gap: 0.1rem 1rem;
    align-items: center;
  }
  & > div > :first-child button {
    width: 100%;
  }
  @media (max-width: 44rem) {
    & > div {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;
const Code = styled.strong`
  font-size: 1.5rem;
  letter-spacing: 0.15em;
  color: var(--ink);
`;
