import { keyOf } from "./answers";
import { isGroup, type Item, type Question, type Questionnaire } from "./definition";
import { allQuestions } from "./walk";

/** Where a question stands in a packet: its part, and its key there (it is in no repeating group). */
export interface Twin {
  readonly part: string;
  readonly key: string;
}
const same = (text: string): string =>
  text
    .normalize("NFKC")
    .toLocaleLowerCase()
    .replace(/[\s\p{P}]+/gu, " ")
    .trim();

/**
 * Questions that a packet asks more than once: the same words, kind and options in different questionnaires. What is
 * given to one is given to all. Left alone are questions that count in a score, since a measure is to be answered as it
 * stands, files, and what is asked row by row.
 * @returns For each such place (`part key`) the other places, in the packet's order.
 */
export function twinsOf(
  parts: readonly { readonly id: string; readonly questionnaire: Questionnaire }[],
): ReadonlyMap<string, readonly Twin[]> {
  const found = new Map<string, Twin[]>();
  const asTheyStand = new Set<string>();
  for (const { id, questionnaire } of parts) {
    const counted = new Set(allQuestions(questionnaire).flatMap((q) => q.score?.items ?? []));
    const seen = new Set<string>();
    const visit = (items: readonly Item[]): void =>
      items.forEach((item) => {
        if (item.type === "display" || (isGroup(item) && item.repeats)) return;
        if (item.type !== "group" && askable(item) && !counted.has(item.linkId) && same(item.text) !== "") {
          const mark = JSON.stringify([
            same(item.text),
            item.type,
            item.repeats,
            item.keyboard ?? "",
            item.unit?.code ?? "",
            item.options.map((o) => o.value),
          ]);
          // Twice in one questionnaire is meant so: before and after, left and right.
          if (seen.has(mark)) asTheyStand.add(mark);
          else {
            seen.add(mark);
            found.set(mark, [...(found.get(mark) ?? []), { part: id, key: keyOf("", item.linkId) }]);
          }
        }
        visit(item.items);
      });
    visit(questionnaire.items);
  }
  const groups = [...found].flatMap(([mark, places]) => (places.length > 1 && !asTheyStand.has(mark) ? [places] : []));
  return new Map(
    groups.flatMap((places) =>
      places.map((own) => [`${own.part} ${own.key}`, places.filter((p) => p !== own)] as const),
    ),
  );
}
const askable = (q: Question): boolean =>
  !q.readOnly && !q.score && q.type !== "attachment" && q.terms === undefined && q.alert === undefined;
