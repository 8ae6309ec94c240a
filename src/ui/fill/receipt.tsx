"use client";
import { dateWords } from "@/core/questionnaire";
import type { FillWords } from "@/i18n/translator";
import { fullMoment } from "@/i18n/moments";
import { useTimeFrame } from "@/ui/kit/time";
import type { FillView } from "@/usecases/filling";

/** What came back, when, and from which day on the same link asks again. */
export function Receipt({
  returned,
  repeats,
  words,
}: {
  readonly returned: NonNullable<FillView["returned"]>;
  readonly repeats: boolean;
  readonly words: FillWords;
}) {
  const frame = useTimeFrame();
  return (
    <>
      <p>{words("sentWhat", { when: fullMoment(returned.at, frame) })}</p>
      <ul>
        {returned.titles.map((title) => (
          <li key={title} dir="auto">
            {title}
          </li>
        ))}
      </ul>
      {repeats && (
        <p>
          {returned.nextOn ? words("againFrom", { day: dateWords(returned.nextOn, frame.locale) }) : words("again")}
        </p>
      )}
    </>
  );
}
