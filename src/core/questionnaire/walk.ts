import { childrenOf, isQuestion, type Item, type Question, type Questionnaire } from './definition';

/** All items, parents before children, in reading order. */
export function allItems(questionnaire: Questionnaire): Item[] {
  const out: Item[] = [];
  const visit = (item: Item): void => {
    out.push(item);
    childrenOf(item).forEach(visit);
  };
  questionnaire.items.forEach(visit);
  return out;
}
export const allQuestions = (questionnaire: Questionnaire): Question[] => allItems(questionnaire).filter(isQuestion);

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
    if (item.type === 'group' && !item.repeats) {
      flush();
      sections.push({ id: item.linkId, title: item.text, items: [item] });
    } else loose.push(item);
  }
  flush();
  return sections;
}
