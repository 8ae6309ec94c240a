"use client";
import type { DoorWay, SendDraft, SendStep } from "@/core/packet";
import { languageName, mainLanguage } from "@/core/shared";
import { Checkbox, CheckboxGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { Fold } from "@/ui/kit/ledger";
import { Notice } from "@/ui/kit/notice";
import { Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import type { SendOptions } from "@/usecases/sending";
import { doorWayWords } from "../door-words";
import { SendDates } from "./send-dates";

export interface SendHowProps {
  readonly options: SendOptions;
  readonly draft: SendDraft;
  readonly step: (step: SendStep) => void;
}

/** Until when, in which language, by which door, with what: what is rarely set is folded. */
export function SendHow({ options, draft, step }: SendHowProps) {
  const set = (part: Extract<SendStep, { readonly do: "set" }>["set"]): void => step({ do: "set", set: part });
  const picked = options.questionnaires.filter((q) => draft.chosen.includes(q.id));
  const lacking = picked.filter((q) => !q.languages.some((tag) => mainLanguage(tag) === mainLanguage(draft.language)));
  const fillable = picked.filter((q) => q.onFile > 0);
  return (
    <MarginRow margin="How">
      <Stack $gap="0.6rem">
        <Fields $least="11rem">
          <SendDates draft={draft} set={set} />
          <Pick
            label="Door check"
            value={draft.door}
            options={Object.entries(doorWayWords).map(([value, label]) => ({
              value,
              label: value === options.door.way ? `${label}, usual` : label,
            }))}
            onChange={(door) => set({ door: door as DoorWay })}
          />
          <Pick
            label="Language"
            value={draft.language}
            options={options.languages.map((tag) => ({
              value: tag,
              label: `${languageName(tag)}${tag === options.languages[0] ? ", theirs" : ""}`,
            }))}
            onChange={(language) => set({ language })}
          />
        </Fields>
        {lacking.length > 0 && (
          <Notice tone="attention">
            Not available in {languageName(draft.language)}: {lacking.map((q) => `“${q.title}”`).join(", ")}.{" "}
            {lacking.length === 1 ? "It is" : "They are"} shown in the words{" "}
            {lacking.length === 1 ? "it was" : "they were"} written in.
          </Notice>
        )}
        {fillable.length > 0 && (
          <Stack $gap="0.3rem" role="group" aria-label="Begun with what is on file">
            {fillable.map((questionnaire) => (
              <Checkbox
                key={questionnaire.id}
                isSelected={draft.prefill.includes(questionnaire.id)}
                onChange={(on) => step({ do: "prefill", id: questionnaire.id, on })}
                label={
                  <>
                    Begin “{questionnaire.title}” with what is on file{" "}
                    <Soft>
                      {questionnaire.onFile === 1 ? "one answer" : `${questionnaire.onFile} answers`}, to be said right
                      or changed
                    </Soft>
                  </>
                }
              />
            ))}
          </Stack>
        )}
        <Checkbox
          isSelected={draft.repeats}
          onChange={(repeats) => set({ repeats })}
          label={
            <>
              Each session by the same link{" "}
              <Soft>opened on another day after it came back, it asks again, until the last day above</Soft>
            </>
          }
        />
        <Fold open={draft.line !== ""}>
          <summary>Personal message</summary>
          <TextField
            label="Personal message"
            bare
            help="Stands in the letter, so nothing about their health."
            value={draft.line}
            onChange={(line) => set({ line })}
            maxLength={500}
            long
          />
        </Fold>
        {options.leaflets.length > 0 && (
          <Fold open={draft.leaflets.length > 0}>
            <summary>Leaflets</summary>
            <CheckboxGroup
              label="Leaflets that go with it"
              value={[...draft.leaflets]}
              onChange={(leaflets) => set({ leaflets })}
              options={options.leaflets.map((leaflet) => ({ value: leaflet.id, label: leaflet.title }))}
            />
          </Fold>
        )}
      </Stack>
    </MarginRow>
  );
}
