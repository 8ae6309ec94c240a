import { allItems } from './walk';
import type { Item, Questionnaire } from './definition';
import { conditionsOf } from './shown-when';

/** What the client's browser gets: no posting lines, nothing kept from the file; of alerts only from where they begin, so that help is shown at once; of scores only how those that decide what is asked add up. */
export function forClient(questionnaire: Questionnaire): Questionnaire {
  const { kept: _kept, translations: _translations, ...rest } = questionnaire;
  const asked = new Set(allItems(questionnaire).flatMap((i) => conditionsOf(i).map((c) => c.question)));
  const strip = (item: Item): Item[] => {
    const { kept: _kept, ...own } = item;
    if (own.type === 'display') return [own];
    const { posting: _posting, ...open } = own;
    if (open.type === 'group') return [{ ...open, items: open.items.flatMap(strip) }];
    if (open.score) return asked.has(open.linkId) ? [{ ...open, text: '', codes: [], score: { ...open.score, bands: [] }, items: [] }] : [];
    return [{ ...open, ...(open.alert ? { alert: { from: open.alert.from, message: '' } } : {}), items: open.items.flatMap(strip) }];
  };
  return { ...rest, items: questionnaire.items.flatMap(strip) };
}
