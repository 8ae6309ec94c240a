import { childrenOf, isQuestion, isSection, type Item, type Question, type Questionnaire } from "./definition";

// A questionnaire never changes (changing one makes another), so what was walked once stays right as long as it lives.
const walked = new WeakMap<Questionnaire, readonly Item[]>();
const asked = new WeakMap<Questionnaire, readonly Question[]>();

/** All items, parents before children, in reading order. */
export function allItems(questionnaire: Questionnaire): readonly Item[] {
  const known = walked.get(questionnaire);
  if (known) return known;
  const out: Item[] = [];
  const visit = (item: Item): void => {
    out.push(item);
    childrenOf(item).forEach(visit);
  };
  questionnaire.items.forEach(visit);
  walked.set(questionnaire, out);
  return out;
}
export function allQuestions(questionnaire: Questionnaire): readonly Question[] {
  const known = asked.get(questionnaire) ?? allItems(questionnaire).filter(isQuestion);
  asked.set(questionnaire, known);
  return known;
}

/** What the client sees on one page: a top-level section, or the run of top-level questions between two sections. */
export interface Section {
  readonly id: string;
  readonly title: string;
  readonly items: readonly Item[];
}
export function sectionsOf(questionnaire: Questionnaire): Section[] {
  const sections: Section[] = [];
  let loose: Item[] = [];
  const flush = (): void => {
    if (loose[0]) sections.push({ id: loose[0].linkId, title: questionnaire.title, items: loose });
    loose = [];
  };
  for (const item of questionnaire.items) {
    if (isSection(item)) {
      flush();
      sections.push({ id: item.linkId, title: item.text, items: [item] });
    } else loose.push(item);
  }
  flush();
  return sections;
}
/** Whether some answer of it, or a band of a score, can alarm. */
export const canAlarm = (questionnaire: Questionnaire): boolean =>
  allQuestions(questionnaire).some((q) => q.alert !== undefined || q.score?.bands.some((b) => b.alert !== undefined));
