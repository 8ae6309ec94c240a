"use client";
import type { SendDraft } from "@/core/packet";
import { dateWords } from "@/core/questionnaire";
import { languageName, mainLanguage } from "@/core/shared";
import { ActionForm } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { MailingOptions } from "@/usecases/sending";
import { PacketFields } from "../packet-fields";
import { startMailingAction } from "./actions";
import type { People, Person } from "./use-people";

/** Which of the chosen questionnaires some of them get in a language they do not read. */
function lackingFor(options: MailingOptions, chosen: readonly string[], people: readonly Person[]) {
  return options.questionnaires
    .filter((q) => chosen.includes(q.id))
    .flatMap((q) => {
      const others = people.filter(
        (person) => !q.languages.some((tag) => mainLanguage(tag) === mainLanguage(person.language)),
      );
      const languages = [...new Set(others.map((person) => languageName(person.language)))];
      return others.length > 0 ? [{ title: q.title, languages, people: others.length }] : [];
    });
}

export interface ManyNowProps {
  readonly options: MailingOptions;
  readonly draft: SendDraft;
  readonly people: People;
  readonly requestId: string;
}
/** What will happen, and the press that makes it happen. */
export function ManyNow({ options, draft, people, requestId }: ManyNowProps) {
  const { locale } = useTimeFrame();
  const { writing } = people;
  const readOut = options.door === "read-out" ? 0 : writing.filter((person) => person.door === "read-out").length;
  const alarming = options.questionnaires.some((q) => q.alarms && draft.chosen.includes(q.id));
  const mute = alarming
    ? [...new Set(writing.map((person) => person.language))]
        .filter((tag) => !options.supportIn.includes(mainLanguage(tag)))
        .map(languageName)
    : [];
  const nothing = writing.length === 0 || draft.chosen.length === 0;
  const byMail = writing.filter((person) => person.channel === "email").length;
  const who = writing.length === 1 ? "One person gets" : `${writing.length} people get`;
  return (
    <MarginRow margin="What will happen">
      <Stack>
        <p>
          {nothing
            ? "Choose what and whom first."
            : `${who} a letter each: ${byMail} by e-mail, ${writing.length - byMail} by text. Each has a link and a door check of their own, and can open it until ${dateWords(draft.expiresOn, locale)}.`}
        </p>
        {lackingFor(options, draft.chosen, writing).map((lacking) => (
          <Notice key={lacking.title} tone="attention">
            “{lacking.title}” is not available in {lacking.languages.join(", ")}:{" "}
            {lacking.people === 1 ? "one person sees" : `${lacking.people} people see`} it in the words it was written
            in.
          </Notice>
        ))}
        {readOut > 0 && (
          <Notice tone="attention">
            {readOut === 1 ? "One of them needs" : `${readOut} of them need`} a code that you read out: what their door
            check needs is not on file.
          </Notice>
        )}
        {mute.length > 0 && (
          <Notice tone="attention">
            An answer can alarm, and the words for somebody in danger are not written in {mute.join(", ")}. The office
            writes them under Clients’ pages.
          </Notice>
        )}
        <ActionForm
          action={startMailingAction}
          submit={writing.length === 1 ? "Send to one person" : `Send to ${writing.length} people`}
          disabled={nothing}
          hidden={{
            requestId,
            clientIds: writing.map((person) => person.id).join(" "),
            expiresOn: draft.expiresOn,
            dueOn: draft.dueOn,
          }}
        >
          <PacketFields offer={options} draft={draft} />
        </ActionForm>
      </Stack>
    </MarginRow>
  );
}
