"use client";
import { useReducer } from "react";
import { beginSending, stepSending, type SendDraft, type SendStep } from "@/core/packet";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { SendOptions } from "@/usecases/sending";
import { SendHow } from "./send-how";
import { SendNow } from "./send-now";
import { SendOrder } from "./send-order";
import { SendSigners } from "./send-signers";
import { SendWhom } from "./send-whom";
import { StandingPick } from "./standing-pick";

export interface SendViewProps {
  readonly requestId: string;
  /** A questionnaire somebody came with. */
  readonly asked: string | undefined;
  readonly options: SendOptions;
}
/** What is sent to one person, how, and what will happen. */
export function SendView({ options, requestId, asked }: SendViewProps) {
  const { visit, questionnaires, languages, expiresOn, door } = options;
  const [draft, step] = useReducer(
    (now: SendDraft, next: SendStep) => stepSending(options, now, next),
    undefined,
    () => beginSending(options, { expiresOn, language: languages[0]!, door: door.way }, asked),
  );
  return (
    <Page
      title={
        <>
          Send to <bdi>{options.clientName}</bdi>
        </>
      }
      margin={
        visit ? (
          <>
            <Moment at={visit.startsAt} />, {visit.visitType}
            <br />
            with {visit.practitioner}
          </>
        ) : (
          "without a visit"
        )
      }
    >
      {options.earlier.length > 0 && (
        <Notice tone="attention">
          This visit already has a packet:{" "}
          {options.earlier.map((packet) => (
            <Link key={packet.id} href={`/packets/${packet.id}`}>
              sent <Moment at={packet.createdAt} />
            </Link>
          ))}
          . Sending again makes a second one.
        </Notice>
      )}
      <StandingPick standing={options.standing} draft={draft} step={step} />
      <MarginRow margin={`${draft.chosen.length} of ${questionnaires.length} chosen`}>
        {questionnaires.length === 0 ? (
          <p>
            No questionnaire is in use yet. <Link href="/library">Put one in use in the Library</Link> first.
          </p>
        ) : (
          <CheckboxGroup
            label="What to send"
            value={[...draft.chosen]}
            onChange={(chosen) => step({ do: "set", set: { chosen } })}
            options={questionnaires.map((q) => ({
              value: q.id,
              label: q.title,
              note: `${q.kind}${q.description ? `. ${q.description}` : ""}`,
            }))}
          />
        )}
      </MarginRow>
      <SendOrder offer={options} draft={draft} step={step} />
      <SendHow options={options} draft={draft} step={step} />
      <SendWhom options={options} draft={draft} step={step} requestId={requestId} />
      <SendSigners options={options} draft={draft} step={step} />
      <SendNow options={options} draft={draft} requestId={requestId} />
    </Page>
  );
}
