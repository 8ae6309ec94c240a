import type { Item, Questionnaire } from './definition';

/** What the client's browser gets: no posting lines, no alerts, no score rules, no scores, nothing kept from the file. */
export function forClient(questionnaire: Questionnaire): Questionnaire {
  const { kept: _kept, translations: _translations, ...rest } = questionnaire;
  return { ...rest, items: questionnaire.items.flatMap(strip) };
}
function strip(item: Item): Item[] {
  const { kept: _kept, ...rest } = item;
  if (rest.type === 'display') return [rest];
  const { posting: _posting, ...open } = rest;
  if (open.type === 'group') return [{ ...open, items: open.items.flatMap(strip) }];
  if (open.score) return [];
  const { alert: _alert, ...question } = open;
  return [{ ...question, items: question.items.flatMap(strip) }];
}
