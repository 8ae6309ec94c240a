"use client";
import { useState } from "react";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Cluster, Fields, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment } from "@/ui/kit/time";
import type { MeasuresView } from "@/usecases/measures";
import { endScheduleAction, scheduleAction } from "./actions";

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
        <MarginRow
          key={one.id}
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
        </MarginRow>
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
            <Fields>
              <Pick label="When" value={when} options={[...times]} onChange={(value) => setWhen(String(value))} />
              <Pick
                label="About which time"
                value={recall}
                options={[
                  { value: "as-written", label: "as the questionnaire says" },
                  { value: "since-last", label: "since the last session" },
                ]}
                onChange={(value) => setRecall(String(value))}
              />
            </Fields>
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
