import { allItems } from "./walk";
import { childrenOf, isQuestion, type Item, type Questionnaire } from "./definition";
import { conditionsOf } from "./shown-when";

// An item never changes, so what was stripped once stays right: made again from the same, it is the same one, and
// whoever shows it has nothing to draw anew. A score is not remembered, since it hangs on what the rest asks for.
const stripped = new WeakMap<Item, Item>();
function remembered(item: Item, inner: readonly Item[], make: () => Item): Item {
  const known = stripped.get(item);
  const before = known && childrenOf(known);
  if (known && before?.length === inner.length && before.every((c, i) => c === inner[i])) return known;
  const made = make();
  stripped.set(item, made);
  return made;
}

/**
 * What the client's browser gets: no posting lines, nothing kept from the file; of alerts only what sets them off, so
 * that help is shown at once; of scores only how those that decide what is asked add up.
 */
export function forClient(questionnaire: Questionnaire): Questionnaire {
  const { kept: _kept, translations: _translations, ...rest } = questionnaire;
  const asked = new Set(allItems(questionnaire).flatMap((i) => conditionsOf(i).map((c) => c.question)));
  const strip = (item: Item): Item[] => {
    if (isQuestion(item) && item.score) {
      const { kept: _kept, posting: _posting, ...open } = item;
      return asked.has(item.linkId)
        ? [{ ...open, text: "", codes: [], score: { ...item.score, bands: [] }, items: [] }]
        : [];
    }
    const inner = childrenOf(item).flatMap(strip);
    return [
      remembered(item, inner, () => {
        const { kept: _kept, ...own } = item;
        if (own.type === "display") return own;
        const { posting: _posting, ...open } = own;
        if (!isQuestion(open) || !open.alert) return { ...open, items: inner };
        const { alert, ...quiet } = open;
        // What was left open alarms once it is returned; until then nobody is to be frightened by an empty page.
        return alert.test.kind === "unanswered"
          ? { ...quiet, items: inner }
          : { ...quiet, alert: { test: alert.test, message: "" }, items: inner };
      }),
    ];
  };
  return { ...rest, items: questionnaire.items.flatMap(strip) };
}
