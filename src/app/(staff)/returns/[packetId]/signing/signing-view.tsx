"use client";
import { useState } from "react";
import styled from "styled-components";
import { journalWords } from "@/core/audit";
import { signingStateWords, talkWays, talkWords } from "@/core/signing";
import { dateWords } from "@/core/questionnaire";
import { dayIn } from "@/core/scheduling";
import { DateField } from "@/ui/kit/date-field";
import { ActionForm } from "@/ui/kit/form";
import { Fold, ListLine, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, Fields, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { PacketSigningView, SigningLine, SigningPartView } from "@/usecases/signing";
import { signerWords } from "../../../signer-words";
import { nudgeSignerAction, recordPaperAction, recordTalkAction, replaceSignerAction } from "./actions";

/** Who signs what of a packet, whose turn it is, and what is to be done about it. */
export function SigningView({ view }: { readonly view: PacketSigningView }) {
  useLiveReload();
  return (
    <Page
      title={
        <>
          Signatures of <bdi>{view.clientName}</bdi>
        </>
      }
      margin={view.open ? "Not complete" : "Complete"}
    >
      <Strip as="nav" aria-label="This packet">
        {view.maySee && <Link href={`/returns/${view.packetId}`}>What came back</Link>}
        <Link href={`/packets/${view.packetId}`}>History</Link>
        <Link href={`/people/${view.clientId}/consents`}>Their consents</Link>
        {view.maySee && <Link href="/returns/sign">For you to sign</Link>}
      </Strip>
      {view.parts.length === 0 && <MarginRow margin="Nothing">Nothing of this packet is signed.</MarginRow>}
      {view.parts.map((part) => (
        <OnePart key={part.partId} part={part} view={view} />
      ))}
    </Page>
  );
}
function OnePart({ part, view }: { readonly part: SigningPartView; readonly view: PacketSigningView }) {
  const frame = useTimeFrame();
  return (
    <section aria-label={part.title}>
      <SectionTitle>{part.title}</SectionTitle>
      <ol>
        {part.lines.map((line) => (
          <OnePlace key={line.place} line={line} part={part} view={view} />
        ))}
      </ol>
      {part.talkNeeded && (
        <MarginRow margin="The talk" tone={part.talk ? "plain" : "attention"}>
          {part.talk ? (
            <p>
              {dateWords(part.talk.on, frame.locale)}, {talkWords[part.talk.how].toLowerCase()}
              {part.talk.present === "" ? (
                ""
              ) : (
                <>
                  , with <bdi>{part.talk.present}</bdi>
                </>
              )}
              .{" "}
              <Soft>
                Recorded by <bdi>{part.talk.by}</bdi>, <Moment at={part.talk.recordedAt} />
              </Soft>
              {part.talk.questions !== "" && (
                <>
                  <br />
                  Questions: <bdi>{part.talk.questions}</bdi>
                </>
              )}
            </p>
          ) : (
            <TalkForm part={part} view={view} />
          )}
        </MarginRow>
      )}
      <MarginRow margin="Sealed paper">
        <PaperWords part={part} />
      </MarginRow>
      {part.steps.length > 0 && (
        <MarginRow margin="Journal">
          <Fold>
            <summary>{part.steps.length === 1 ? "One line" : `${part.steps.length} lines`} about this paper</summary>
            <ol>
              {part.steps.map((step) => (
                <li key={step.seq}>
                  <Soft>
                    {step.seq}, <Moment at={step.at} />
                  </Soft>{" "}
                  {journalWords[step.action]}
                  {step.who === undefined ? (
                    ""
                  ) : (
                    <>
                      : <bdi>{step.who}</bdi>
                    </>
                  )}
                </li>
              ))}
            </ol>
          </Fold>
        </MarginRow>
      )}
    </section>
  );
}
function PaperWords({ part }: { readonly part: SigningPartView }) {
  if (part.sealing) return <p role="status">It is being sealed.</p>;
  if (!part.paper) return <Soft as="p">{part.complete ? "It is sealed in a moment." : waitsWords(part)}</Soft>;
  return (
    <Cluster>
      <a href={`/api/parts/${part.partId}/sealed`}>Sealed PDF</a>
      <Soft>
        made <Moment at={part.paper.at} />
        {part.paper.number > 1 ? `, the ${part.paper.number}. of it` : ""}
        {part.paper.revision > 1 ? `, with ${part.paper.revision - 1} added later` : ""}
      </Soft>
    </Cluster>
  );
}
const waitsWords = ({ talkNeeded, talk }: SigningPartView): string =>
  talkNeeded && !talk
    ? "It is sealed once everybody has signed and the talk is recorded."
    : "It is sealed once everybody has signed.";
function TalkForm({ part, view }: { readonly part: SigningPartView; readonly view: PacketSigningView }) {
  const { now, zone, locale } = useTimeFrame();
  const [on, setOn] = useState<string>(dayIn(now, zone));
  const [how, setHow] = useState<string>(talkWays[0]);
  if (!view.maySee) return <Soft>It counts once the practitioner has recorded the talk about it.</Soft>;
  return (
    <ActionForm
      action={recordTalkAction}
      schema={async () => (await import("@/core/forms")).talkSchema}
      submit="Record the talk"
      hidden={{ packetId: view.packetId, partId: part.partId, how, on }}
    >
      <Fields $least="12rem">
        <DateField label="When" value={on} onChange={setOn} locale={locale} />
        <Pick
          label="How"
          value={how}
          onChange={setHow}
          options={talkWays.map((way) => ({ value: way, label: talkWords[way] }))}
        />
        <TextField name="present" label="Who was there" />
      </Fields>
      <TextField name="questions" label="Questions they asked" long optional="optional" />
    </ActionForm>
  );
}

function OnePlace({
  line,
  part,
  view,
}: {
  readonly line: SigningLine;
  readonly part: SigningPartView;
  readonly view: PacketSigningView;
}) {
  const open = line.state !== "signed";
  const unreached = (line.state === "turn" || line.state === "void") && !line.isStaff && line.masked === undefined;
  const attention = unreached || line.state === "declined" || line.state === "paper" || line.state === "nobody";
  const kind = line.title || (line.kind ? signerWords[line.kind] : "whoever filled it in");
  return (
    <ListLine
      tone={attention ? "attention" : "plain"}
      margin={
        <>
          <strong>{signingStateWords[line.state]}</strong>
          {line.signedAt && (
            <>
              {" "}
              <Moment at={line.signedAt} />
            </>
          )}
        </>
      }
    >
      <Stack $gap="0.3rem">
        <Cluster $gap="0 0.75rem">
          <strong>{line.who ? <bdi>{line.who}</bdi> : "Nobody yet"}</strong>
          <Soft>
            for {kind}
            {line.required ? "" : ", optional"}
            {line.masked && open ? `, ${line.masked}` : ""}
          </Soft>
          {line.own && line.state === "turn" && <Link href={`/returns/sign?part=${part.partId}`}>Sign now</Link>}
        </Cluster>
        {line.text !== "" && (
          <Soft as="p">
            <bdi>{line.text}</bdi>
          </Soft>
        )}
        {line.reason && (
          <p>
            They said: <bdi>{line.reason}</bdi>
          </p>
        )}
        {unreached && (
          <p>
            <strong>Nobody was written to: there is no address of theirs.</strong> Add one, or say who else signs.
          </p>
        )}
        {open && (line.askedAt || line.openedAt) && (
          <Soft as="p">
            {line.askedAt && (
              <>
                Asked <Moment at={line.askedAt} />
              </>
            )}
            {line.openedAt && (
              <>
                , opened <Moment at={line.openedAt} />
              </>
            )}
          </Soft>
        )}
        {open && <WhatToDo line={line} part={part} view={view} />}
      </Stack>
    </ListLine>
  );
}
function WhatToDo({
  line,
  part,
  view,
}: {
  readonly line: SigningLine;
  readonly part: SigningPartView;
  readonly view: PacketSigningView;
}) {
  const hidden = { packetId: view.packetId, partId: part.partId, place: line.place };
  const turn = line.state === "turn" || line.state === "void" || line.state === "paper";
  return (
    <Doings>
      {turn && line.state !== "paper" && line.signerId && !line.isStaff && (
        <ActionForm
          action={nudgeSignerAction}
          submit="Write again"
          weight="plain"
          hidden={{ packetId: view.packetId, signerId: line.signerId }}
        />
      )}
      <ChooseSigner line={line} view={view} hidden={hidden} />
      {(turn || line.state === "declined" || line.state === "nobody") && (
        <Fold>
          <summary>Signed on paper</summary>
          <ActionForm action={recordPaperAction} submit="Record the signature" weight="plain" hidden={hidden}>
            <TextField name="name" label="Name on the sheet" defaultValue={line.who ?? ""} />
            <Soft>The sheet itself stays with you. What is recorded here names you as who saw it.</Soft>
          </ActionForm>
        </Fold>
      )}
    </Doings>
  );
}
const Doings = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 0.3rem 1.2rem;
`;
function ChooseSigner({
  line,
  view,
  hidden,
}: {
  readonly line: SigningLine;
  readonly view: PacketSigningView;
  readonly hidden: Readonly<Record<string, string>>;
}) {
  const [chosen, setChosen] = useState(line.kind === "named" ? "named" : "");
  return (
    <Fold open={line.state === "nobody"}>
      <summary>{line.signerId ? "Somebody else signs" : "Choose who signs"}</summary>
      <ActionForm
        action={replaceSignerAction}
        schema={async () => (await import("@/core/forms")).namedSignerSchema}
        submit="Keep"
        weight="plain"
        hidden={{ ...hidden, chosen }}
      >
        <Pick
          label="Who signs"
          value={chosen}
          onChange={setChosen}
          options={[
            { value: "client", label: `${view.clientName}, the client` },
            ...view.around.map((one) => ({ value: `relation ${one.id}`, label: `${one.name}, ${one.kind}` })),
            ...view.staff.map((one) => ({ value: `staff ${one.id}`, label: `${one.name}, of the practice` })),
            { value: "named", label: "Somebody else, by name" },
          ]}
        />
        {chosen === "named" && (
          <Fields $least="12rem">
            <TextField name="name" label="Their name" />
            <TextField name="email" type="email" label="Their e-mail address" />
            <TextField name="title" label="What they are" defaultValue={line.title} optional="optional" />
          </Fields>
        )}
        {line.signerId && <TextField name="reason" label="Why" />}
      </ActionForm>
    </Fold>
  );
}
