"use client";
import { useState } from "react";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Cluster, Fields, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment } from "@/ui/kit/time";
import type { MeasuresView } from "@/usecases/measures";
import { changeScheduleAction, endScheduleAction, scheduleAction } from "./actions";

const times: readonly { readonly value: string; readonly label: string }[] = [
  { value: "visit", label: "before every visit, the day before" },
  { value: "1", label: "every week" },
  { value: "2", label: "every 2 weeks" },
  { value: "4", label: "every 4 weeks" },
  { value: "12", label: "every 12 weeks" },
  { value: "0", label: "now, and a last time when it ends" },
];
const timeWords = (everyWeeks: number | undefined): string =>
  times.find(({ value }) => value === String(everyWeeks ?? "visit"))?.label ?? `every ${everyWeeks} weeks`;

/** What they are asked by itself, again and again, by one link. */
export function Schedules({
  view: { clientId, schedules },
  requestId,
}: {
  readonly view: MeasuresView;
  readonly requestId: string;
}) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [when, setWhen] = useState("visit");
  const [recall, setRecall] = useState("as-written");
  if (!schedules) return null;
  return (
    <section aria-label="Asked by itself">
      <SectionTitle>Asked by itself</SectionTitle>
      {schedules.going.map((one) => (
        <Going key={`${one.id} ${one.everyWeeks} ${one.recall}`} one={one} />
      ))}
      <Fold>
        <summary>Ask again and again</summary>
        <ActionForm
          action={scheduleAction}
          submit="Begin to ask"
          weight="plain"
          disabled={chosen.length === 0}
          hidden={{ clientId, requestId, when, recall, questionnaireIds: chosen.join(" ") }}
        >
          <Stack>
            <CheckboxGroup
              label="What is asked"
              options={schedules.measures.map(({ id, title }) => ({ value: id, label: title }))}
              value={[...chosen]}
              onChange={setChosen}
            />
            <Rhythm when={when} recall={recall} onWhen={setWhen} onRecall={setRecall} />
            <Soft>
              One link serves every time, with a new door check each time. A published measure asked about another time
              than it says is no longer compared with its norms by the book.
            </Soft>
          </Stack>
        </ActionForm>
      </Fold>
    </section>
  );
}

function Rhythm({
  when,
  recall,
  onWhen,
  onRecall,
}: {
  readonly when: string;
  readonly recall: string;
  readonly onWhen: (when: string) => void;
  readonly onRecall: (recall: string) => void;
}) {
  return (
    <Fields>
      <Pick label="When" value={when} options={[...times]} onChange={onWhen} />
      <Pick
        label="About which time"
        value={recall}
        options={[
          { value: "as-written", label: "as the questionnaire says" },
          { value: "since-last", label: "since the last session" },
        ]}
        onChange={onRecall}
      />
    </Fields>
  );
}
/** One that goes on, to be changed or ended. */
function Going({ one }: { readonly one: NonNullable<MeasuresView["schedules"]>["going"][number] }) {
  const before = String(one.everyWeeks ?? "visit");
  const [when, setWhen] = useState(before);
  const [recall, setRecall] = useState<string>(one.recall);
  return (
    <MarginRow
      margin={
        one.lastAskedAt ? (
          <>
            last asked <Moment at={one.lastAskedAt} as="day" />
          </>
        ) : (
          "not asked yet"
        )
      }
    >
      <Cluster>
        <span>
          <strong>{one.titles.join(", ")}</strong>, {timeWords(one.everyWeeks)}
          {one.recall === "since-last" && <Soft>, about the time since the last session</Soft>}
        </span>
        <ActionForm
          action={endScheduleAction}
          submit="End"
          weight="quiet"
          hidden={{ scheduleId: one.id, last: "no" }}
        />
        {one.everyWeeks === 0 && (
          <ActionForm
            action={endScheduleAction}
            submit="Ask a last time and end"
            weight="quiet"
            hidden={{ scheduleId: one.id, last: "yes" }}
          />
        )}
      </Cluster>
      <Fold>
        <summary>Change it</summary>
        <ActionForm
          action={changeScheduleAction}
          submit="Change"
          weight="plain"
          disabled={when === before && recall === one.recall}
          hidden={{ scheduleId: one.id, when, recall }}
        >
          <Rhythm when={when} recall={recall} onWhen={setWhen} onRecall={setRecall} />
        </ActionForm>
      </Fold>
    </MarginRow>
  );
}
