"use client";
import { useReducer } from "react";
import { beginSending, stepSending, type SendDraft, type SendStep } from "@/core/packet";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { Fold } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Fields, MarginRow, Page, SectionTitle, Stack } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { MailingOptions, MailingPeople } from "@/usecases/sending";
import { StandingPick } from "../standing-pick";
import { ChoosePeople, PeopleChosen } from "./choose-people";
import { ManyNow } from "./many-now";
import { usePeople } from "./use-people";
import { SendDates } from "../send-dates";
import { SendOrder } from "../send-order";

export interface ManyViewProps {
  readonly requestId: string;
  readonly options: MailingOptions;
  readonly first: MailingPeople;
  /** The consent whose register somebody came from. */
  readonly renew?: string | undefined;
}
/** One packet for many people: whom, what, and who cannot be reached, before anything is sent. */
export function ManyView({ options, first, requestId, renew }: ManyViewProps) {
  const [draft, step] = useReducer(
    (now: SendDraft, next: SendStep) => stepSending(options, now, next),
    undefined,
    () => ({
      ...beginSending({ questionnaires: [], standing: [] }, { ...given, expiresOn: options.expiresOn }),
      ...(renew ? { chosen: [renew] } : {}),
    }),
  );
  const set = (part: Partial<Pick<SendDraft, "chosen" | "expiresOn" | "dueOn" | "line">>): void =>
    step({ do: "set", set: part });
  const people = usePeople(draft.chosen, first, renew);
  return (
    <Page title="Send to many" margin={`${first.reachable + first.lost} clients`}>
      {options.earlier
        .filter((mailing) => !mailing.over)
        .map((mailing) => (
          <MarginRow key={mailing.id} margin={<Moment at={mailing.createdAt} />} tone="attention">
            <Link href={`/send/many/${mailing.id}`}>
              A mailing is under way: {mailing.written} of {mailing.people}
            </Link>
          </MarginRow>
        ))}
      <StandingPick standing={options.standing} draft={draft} step={step} />
      <MarginRow margin={`${draft.chosen.length} of ${options.questionnaires.length} chosen`}>
        <CheckboxGroup
          label="What to send"
          value={[...draft.chosen]}
          onChange={(chosen) => set({ chosen })}
          options={options.questionnaires.map((q) => ({ value: q.id, label: q.title, note: q.kind }))}
        />
      </MarginRow>
      <SendOrder offer={options} draft={draft} step={step} />
      <MarginRow margin="How">
        <Stack $gap="0.5rem">
          <Fields>
            <SendDates draft={draft} set={set} />
          </Fields>
          <Fold open={draft.line !== ""}>
            <summary>Message to all of them</summary>
            <TextField
              label="Message to all of them"
              bare
              help="Stands in each letter, so nothing about anybody’s health."
              value={draft.line}
              onChange={(line) => set({ line })}
              maxLength={500}
              long
            />
          </Fold>
        </Stack>
      </MarginRow>
      <SectionTitle>Recipients</SectionTitle>
      <ChoosePeople options={options} people={people} />
      <PeopleChosen people={people} />
      <ManyNow options={options} draft={draft} people={people} requestId={requestId} />
      {options.earlier.some((mailing) => mailing.over) && <SectionTitle>Earlier mailings</SectionTitle>}
      {options.earlier
        .filter((mailing) => mailing.over)
        .map((mailing) => (
          <MarginRow key={mailing.id} margin={<Moment at={mailing.createdAt} />}>
            <Link href={`/send/many/${mailing.id}`}>
              {mailing.written} of {mailing.people} written to
            </Link>
          </MarginRow>
        ))}
    </Page>
  );
}
/** Each gets it in their own language, by the practice's door check. */
const given = { language: "", door: "contact" } as const;
