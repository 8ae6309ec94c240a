"use client";
import { Fragment } from "react";
import styled from "styled-components";
import { doorFor, sendingOf, type Door, type DoorPerson, type SendDraft } from "@/core/packet";
import { dateWords } from "@/core/questionnaire";
import { languageName, mainLanguage } from "@/core/shared";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { SendOptions } from "@/usecases/sending";
import { signsAt, type FillerKind } from "@/core/signing";
import { doorWords, missingWords } from "../door-words";
import { signerWords } from "../signer-words";
import { addContactAction, confirmSigningAction, sendAction } from "./actions";
import { PacketFields } from "./packet-fields";
import { SeeLetter, TestForm } from "./send-letter";

export interface SendNowProps {
  readonly options: SendOptions;
  readonly draft: SendDraft;
  readonly requestId: string;
}
const targetOf = ({ visit, clientId }: SendOptions): Record<string, string> =>
  visit ? { visitId: visit.id } : { clientId };

/** What will happen, and the press that makes it happen. */
export function SendNow(props: SendNowProps) {
  return (
    <MarginRow margin="What will happen">
      {props.options.recipient.channel === undefined ? <Unreachable {...props} /> : <Reachable {...props} />}
    </MarginRow>
  );
}

function hiddenOf({ options, draft, requestId }: SendNowProps): Record<string, string> {
  return {
    requestId,
    ...targetOf(options),
    expiresOn: draft.expiresOn,
    dueOn: draft.dueOn,
    door: draft.door === options.door.way ? "" : draft.door,
    repeats: draft.repeats ? "yes" : "",
    language: draft.language === options.languages[0] ? "" : draft.language,
  };
}

function Unreachable(props: SendNowProps) {
  const { options, draft } = props;
  const picked = options.questionnaires.filter((q) => draft.chosen.includes(q.id));
  return (
    <Stack>
      <Notice tone="attention">
        <strong>{options.recipient.name} cannot be reached.</strong> There is no e-mail and no phone on file. Add one
        here; make the packet and give them its link yourself, reading a code out to them; make it and hand this device
        over to them when they are here; or print the questionnaires for the visit:{" "}
        {picked.map((q, place) => (
          <Fragment key={q.id}>
            {place > 0 ? ", " : null}
            <a href={`/api/questionnaires/${q.id}/blank`}>{q.title}</a>
          </Fragment>
        ))}
      </Notice>
      <ActionForm
        action={addContactAction}
        schema={async () => (await import("@/core/forms")).contactSchema}
        submit="Add contact"
        weight="plain"
        hidden={{ ...targetOf(options), clientId: options.clientId }}
      >
        <Fields $least="11rem">
          <TextField name="email" label="E-mail" type="email" dir="ltr" />
          <TextField name="phone" label="Phone" type="tel" dir="ltr" />
        </Fields>
      </ActionForm>
      <ActionForm
        action={sendAction}
        submit="Make packet without a letter"
        weight="plain"
        disabled={draft.chosen.length === 0}
        hidden={{ ...hiddenOf(props), by: "link" }}
      >
        <PacketFields offer={options} draft={draft} />
      </ActionForm>
    </Stack>
  );
}

/** Places to sign for somebody who gets no link: asked once it is back, or chosen then where nobody is on file. */
function OthersSign({ options, draft }: Pick<SendNowProps, "options" | "draft">) {
  const fillers = [
    options.recipient.kind,
    ...options.others
      .filter((other) => draft.people[other.relationId ?? ""] === "fills")
      .map((other) => other.kind as FillerKind),
  ];
  const around = [options.recipient.kind, ...options.others.map((other) => other.kind as FillerKind)];
  const later = options.questionnaires
    .filter((questionnaire) => draft.chosen.includes(questionnaire.id))
    .flatMap(({ id, title, signers, chooses }) =>
      signers
        .filter(
          (signer) =>
            signer !== "practitioner" &&
            !fillers.some((kind) => signsAt({ signer }, kind)) &&
            !chooses.some((place) => place.kind === signer),
        )
        .map((signer) => ({
          id,
          title,
          signer,
          known: signer === "named" || around.some((kind) => signsAt({ signer }, kind)),
        })),
    );
  if (later.length === 0) return null;
  return (
    <Notice tone="attention">
      {later.map(({ id, title, signer, known }) => (
        <p key={`${id} ${signer}`}>
          <strong>{title}</strong> has a place for {signerWords[signer]} to sign.{" "}
          {known
            ? "They are asked once it is back and it is their turn."
            : "Nobody like that is on file. Add them, or choose who signs once it is back."}
        </p>
      ))}
    </Notice>
  );
}
/** Asked once, before the first thing to sign goes out. */
function ConfirmSigning({ options, draft }: Pick<SendNowProps, "options" | "draft">) {
  if (options.signingConfirmed || !options.questionnaires.some((q) => q.signed && draft.chosen.includes(q.id)))
    return null;
  return (
    <Notice tone="attention">
      <p>
        <strong>These are signed on a screen.</strong> Whether that is accepted depends on where you file them: courts,
        insurers and registers differ. Please make sure, once, for the practice.
      </p>
      <ActionForm action={confirmSigningAction} submit="Electronic signatures are accepted there" weight="plain" />
    </Notice>
  );
}

function Reachable(props: SendNowProps) {
  const { options, draft } = props;
  const { recipient } = options;
  const { locale } = useTimeFrame();
  const who = recipient.relation ? `${recipient.name}, ${recipient.relation},` : recipient.firstName;
  const also = options.others.filter((other) => draft.people[other.relationId ?? ""]);
  const nothing = draft.chosen.length === 0;
  const holdsChart = sendingOf(options, draft).prefillIds.length > 0;
  const doorOf = (person: DoorPerson): Door => doorFor(options.door, draft.door, person, holdsChart);
  const door = doorOf(recipient.atDoor);
  const countOf = (): string => {
    if (nothing) return "";
    return draft.chosen.length === 1 ? "it " : `all ${draft.chosen.length} `;
  };
  // What is seen before and sent to oneself is the letter that they would get.
  const letter = {
    ...targetOf(options),
    expiresOn: draft.expiresOn,
    ...(draft.language === options.languages[0] ? {} : { language: draft.language }),
    ...(draft.line.trim() ? { line: draft.line } : {}),
    ...(draft.door === options.door.way ? {} : { door: draft.door }),
    ...(holdsChart ? { holdsChart: "true" } : {}),
  };
  return (
    <Stack $gap="0.5rem">
      <div>
        <p>
          <bdi>{who}</bdi> gets {recipient.channel === "email" ? "an e-mail at" : "a text to"}{" "}
          <Strong>{recipient.masked}</Strong> in {languageName(draft.language)}, can open it until{" "}
          <Strong>{dateWords(draft.expiresOn, locale)}</Strong>, and {doorWords(door)}.{" "}
          <Soft>Nothing about their health stands in the message.</Soft>
        </p>
        {also.map((other) => (
          <p key={other.name}>
            <bdi>{other.name}</bdi>{" "}
            {draft.people[other.relationId ?? ""] === "reads" ? "may read it" : "fills it in too"}, by a link to{" "}
            <Strong>{other.masked}</Strong>, and {doorWords(doorOf(other.atDoor))}.
          </p>
        ))}
        {missingWords(door) && <Notice tone="attention">{missingWords(door)}</Notice>}
        <NoSupport options={options} draft={draft} />
        <OthersSign options={options} draft={draft} />
        <ConfirmSigning options={options} draft={draft} />
        {door.way === "none" && (
          <Notice tone="attention">
            <strong>Whoever has the link gets in.</strong> If it went astray, a stranger could answer and read. It is
            written in the journal.
          </Notice>
        )}
      </div>
      <ActionForm
        action={sendAction}
        submit={`Send ${countOf()}to ${recipient.firstName}`}
        disabled={nothing}
        hidden={hiddenOf(props)}
      >
        <PacketFields offer={options} draft={draft} />
      </ActionForm>
      <Beside>
        <SeeLetter input={letter} language={draft.language} />
        <TestForm disabled={nothing} hidden={letter}>
          <PacketFields offer={options} draft={draft} />
        </TestForm>
      </Beside>
    </Stack>
  );
}
/** Something alarming may be answered, and the words for somebody in danger are not there in their language. */
function NoSupport({ options, draft }: Pick<SendNowProps, "options" | "draft">) {
  const alarming = options.questionnaires.filter((q) => q.alarms && draft.chosen.includes(q.id));
  if (alarming.length === 0 || options.supportIn.includes(mainLanguage(draft.language))) return null;
  return (
    <Notice tone="attention">
      An answer to {alarming.map((q) => `“${q.title}”`).join(", ")} can alarm, and the words for somebody in danger are
      not written in {languageName(draft.language)}.{" "}
      {options.supportIn.length > 0 ? "They are shown in another language. " : "None are shown. "}
      The office writes them under Clients’ pages.
    </Notice>
  );
}
const Strong = styled.strong`
  font-weight: 600;
  white-space: nowrap;
`;
const Beside = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1.25rem;
  align-items: start;
`;
