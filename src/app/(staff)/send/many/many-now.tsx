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
import type { People } from "./use-people";

/** Which of the chosen questionnaires some of them get in a language they do not read. */
function lackingFor(options: MailingOptions, chosen: readonly string[], languages: Readonly<Record<string, number>>) {
  return options.questionnaires
    .filter((q) => chosen.includes(q.id))
    .flatMap((q) => {
      const others = Object.entries(languages).filter(
        ([language]) => !q.languages.some((tag) => mainLanguage(tag) === mainLanguage(language)),
      );
      const names = [...new Set(others.map(([language]) => languageName(language)))];
      const count = others.reduce((sum, [, n]) => sum + n, 0);
      return count > 0 ? [{ title: q.title, languages: names, people: count }] : [];
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
  const readOut = options.door === "read-out" ? 0 : writing.readOut;
  const alarming = options.questionnaires.some((q) => q.alarms && draft.chosen.includes(q.id));
  const mute = alarming
    ? Object.keys(writing.languages)
        .filter((tag) => !options.supportIn.includes(mainLanguage(tag)))
        .map(languageName)
    : [];
  const nothing = writing.count === 0 || draft.chosen.length === 0;
  const { count, byEmail } = writing;
  const who = count === 1 ? "One person gets" : `${count} people get`;
  return (
    <MarginRow margin="What will happen">
      <Stack>
        <p>
          {nothing
            ? "Choose what and whom first."
            : `${who} a letter each: ${byEmail} by e-mail, ${count - byEmail} by text. Each has a link and a door check of their own, and can open it until ${dateWords(draft.expiresOn, locale)}.`}
        </p>
        {lackingFor(options, draft.chosen, writing.languages).map((lacking) => (
          <Notice key={lacking.title} tone="attention">
            “{lacking.title}” is not available in {lacking.languages.join(", ")}:{" "}
            {lacking.people === 1 ? "one person sees" : `${lacking.people} people see`} it in the words it was written
            in.
          </Notice>
        ))}
        {readOut === undefined && (
          <Notice tone="attention">Whoever has no postcode on file needs a code that you read out.</Notice>
        )}
        {readOut !== undefined && readOut > 0 && (
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
          submit={count === 1 ? "Send to one person" : `Send to ${count} people`}
          disabled={nothing || !people.settled}
          hidden={{
            requestId,
            choice: JSON.stringify(people.choice),
            seen: writing.seen,
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
