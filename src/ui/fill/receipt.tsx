import { dateWords } from "@/core/questionnaire";
import { fullMoment, type TimeFrame } from "@/i18n/moments";
import type { FillWords } from "@/i18n/translator";
import type { FillView } from "@/usecases/filling";

/** What came back, when, and from which day on the same link asks again. Drawn on the server, where its words are. */
export function Receipt({
  returned,
  repeats,
  words,
  frame,
}: {
  readonly returned: NonNullable<FillView["returned"]>;
  readonly repeats: boolean;
  readonly words: FillWords;
  readonly frame: TimeFrame;
}) {
  const again = returned.nextOn
    ? words("againFrom", { day: dateWords(returned.nextOn, frame.locale) })
    : words("again");
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
      {repeats && <p>{again}</p>}
    </>
  );
}
