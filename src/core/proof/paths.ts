import { allItems, childrenOf, conditionMet, isQuestion, type AnswerValue, type Condition, type Item, type Question, type Questionnaire } from '../questionnaire';
import { representatives } from './domains';

/** True, false, or not decided yet by the answers chosen so far. */
type Three = boolean | undefined;

/**
 * The ways through a questionnaire. Only conditions on earlier questions take part (the others are errors of their own),
 * so questions can be answered in reading order. A row of a repeating group counts as one row.
 */
export interface Paths {
  /** An answer set, incomplete ones included, that shows the item; `undefined` when none can, `'unknown'` when too many had to be tried. */
  show(item: Item): Chosen | undefined | 'unknown';
  /** Whether the item's own conditions can fail to be met while it could be shown, everything required before it being answered. */
  canHide(item: Item): boolean | 'unknown';
  /** Fewest and most questions shown to somebody who answers everything required. */
  count(): { readonly fewest: number; readonly most: number; readonly exact: boolean };
  /**
   * Calls back with every way of answering these questions' controlling questions; false when there are too many.
   * `answers` gives what a controlling question's answer can be on this way, undefined for one that controls nothing.
   */
  eachWay(items: readonly Item[], seen: (way: { shown(item: Item): boolean; answers(linkId: string): readonly (readonly AnswerValue[])[] | undefined }) => void): boolean;
}
export type Chosen = ReadonlyMap<string, readonly AnswerValue[]>;

const mostTried = 20_000;

export function pathsOf(questionnaire: Questionnaire): Paths {
  const items = allItems(questionnaire);
  const order = new Map(items.map((item, i) => [item.linkId, i]));
  const byId = new Map(items.map((item) => [item.linkId, item]));
  const parents = new Map<string, Item>();
  for (const item of items) for (const child of childrenOf(item)) parents.set(child.linkId, item);

  const usable = (item: Item, c: Condition): boolean => {
    const target = byId.get(c.question);
    return target !== undefined && isQuestion(target) && !target.score && order.get(c.question)! < order.get(item.linkId)!;
  };
  const conditionsOf = new Map(items.map((item) => [item.linkId, (item.shownWhen?.conditions ?? []).filter((c) => usable(item, c))]));
  const askedOf = new Map<string, Condition[]>();
  for (const list of conditionsOf.values()) for (const c of list) askedOf.set(c.question, [...(askedOf.get(c.question) ?? []), c]);

  // Controlling: whose answer decides what is shown. A question with others nested under it does, by being answered at all.
  const exists = (id: string): Condition => ({ question: id, operator: 'exists', answer: { type: 'boolean', value: true } });
  const domains = new Map<string, readonly (readonly AnswerValue[])[]>();
  const alike = new Map<readonly AnswerValue[], readonly (readonly AnswerValue[])[]>();
  let exactDomains = true;
  for (const item of items) {
    if (!isQuestion(item) || item.score) continue;
    const nested = item.items.some((i) => i.type !== 'display');
    const asked = askedOf.get(item.linkId);
    if (!asked && !nested) continue;
    const found = representatives(item, [...(asked ?? []), ...(nested ? [exists(item.linkId)] : [])]);
    domains.set(item.linkId, found.answers);
    found.answers.forEach((answer, i) => alike.set(answer, found.alike[i]!));
    exactDomains &&= found.exact;
  }

  /** Everything an item's being shown can depend on, itself left out, in reading order. */
  const closures = new Map<string, readonly string[]>();
  const closureOf = (item: Item): readonly string[] => {
    const known = closures.get(item.linkId);
    if (known) return known;
    const found = new Set<string>();
    closures.set(item.linkId, []);
    const parent = parents.get(item.linkId);
    const from = [...(parent ? [parent] : []), ...conditionsOf.get(item.linkId)!.map((c) => byId.get(c.question)!)];
    for (const other of from) {
      if (domains.has(other.linkId)) found.add(other.linkId);
      for (const id of closureOf(other)) found.add(id);
    }
    const list = [...found].sort((a, b) => order.get(a)! - order.get(b)!);
    closures.set(item.linkId, list);
    return list;
  };

  /** @param chosen answers so far; a controlling question without an entry is not decided. */
  const shownIn = (item: Item, chosen: Chosen): Three => and(parentLets(item, chosen), () => meets(item, chosen));
  const parentLets = (item: Item, chosen: Chosen): Three => {
    const parent = parents.get(item.linkId);
    if (!parent) return true;
    const shown = shownIn(parent, chosen);
    if (shown === false || !isQuestion(parent) || item.type === 'display') return shown;
    const given = chosen.get(parent.linkId);
    return and(shown, () => (given === undefined ? undefined : given.length > 0));
  };
  const meets = (item: Item, chosen: Chosen): Three => {
    const conditions = conditionsOf.get(item.linkId)!;
    // A rule whose every condition points nowhere useful is never met, as when it is filled in.
    const all = item.shownWhen?.conditions ?? [];
    if (all.length === 0) return true;
    const results = [...conditions.map((c) => test(c, chosen)), ...Array.from({ length: all.length - conditions.length }, () => false)];
    if (item.shownWhen!.behavior === 'all') return results.includes(false) ? false : results.includes(undefined) ? undefined : true;
    return results.includes(true) ? true : results.includes(undefined) ? undefined : false;
  };
  const test = (c: Condition, chosen: Chosen): Three => {
    const target = byId.get(c.question)!;
    const shown = shownIn(target, chosen);
    const given = chosen.get(c.question);
    const ifHidden = conditionMet(c, []);
    if (shown === false) return ifHidden;
    if (given === undefined) return undefined;
    const ifShown = conditionMet(c, given);
    return shown === true || ifShown === ifHidden ? ifShown : undefined;
  };

  /** Goes through the answers of the controlling questions in order. `stop` cuts a branch; `found` ends the search. */
  const search = (controls: readonly string[], complete: boolean, stop: (chosen: Chosen) => boolean, found: (chosen: Chosen) => boolean): boolean | 'unknown' => {
    const chosen = new Map<string, readonly AnswerValue[]>();
    let tried = 0;
    const go = (at: number): boolean | 'unknown' => {
      if (++tried > mostTried) return 'unknown';
      if (stop(chosen)) return false;
      const id = controls[at];
      if (id === undefined) return found(chosen);
      const item = byId.get(id) as Question;
      const hidden = shownIn(item, chosen) === false;
      const answers = hidden ? domains.get(id)!.slice(0, 1) : complete && item.required && domains.get(id)!.length > 1 ? domains.get(id)!.slice(1) : domains.get(id)!;
      for (const answer of answers) {
        chosen.set(id, answer);
        const result = go(at + 1);
        if (result !== false) return result;
      }
      chosen.delete(id);
      return false;
    };
    return go(0);
  };

  return {
    show(item) {
      let way: Chosen = new Map();
      const result = search(closureOf(item), false, (c) => shownIn(item, c) === false, (c) => { way = new Map(c); return true; });
      return result === true ? way : result === false ? undefined : 'unknown';
    },
    canHide(item) {
      return search(closureOf(item), true, (c) => parentLets(item, c) === false || meets(item, c) === true, () => true);
    },
    count() {
      let fewest = 0, most = 0, exact = exactDomains;
      for (const { members, controls } of components()) {
        const questions = members.filter((i) => isQuestion(i) && !i.readOnly && !i.score);
        if (questions.length === 0) continue;
        let low = Infinity, high = 0;
        const done = search(controls, true, () => false, (chosen) => {
          const shown = questions.filter((i) => shownIn(i, chosen) === true);
          low = Math.min(low, shown.filter((i) => !inOptionalRows(i)).length);
          high = Math.max(high, shown.length);
          return false;
        });
        if (done === 'unknown') {
          exact = false;
          low = questions.filter((i) => closureOf(i).length === 0 && !inOptionalRows(i)).length;
          high = questions.length;
        }
        fewest += low === Infinity ? 0 : low;
        most += high;
      }
      return { fewest, most, exact };
    },
    eachWay(wanted, seen) {
      const controls = [...new Set(wanted.flatMap((i) => [...closureOf(i), ...(domains.has(i.linkId) ? [i.linkId] : [])]))].sort((a, b) => order.get(a)! - order.get(b)!);
      return search(controls, true, () => false, (chosen) => { seen({ shown: (i) => shownIn(i, chosen) === true, answers: (id) => (chosen.has(id) ? alike.get(chosen.get(id)!) : undefined) }); return false; }) !== 'unknown';
    },
  };

  function inOptionalRows(item: Item): boolean {
    for (let p = parents.get(item.linkId); p; p = parents.get(p.linkId)) if (p.type === 'group' && p.repeats && !p.required) return true;
    return false;
  }
  /** Items whose being shown hangs together; what hangs on nothing is one of its own. */
  function components(): { members: Item[]; controls: string[] }[] {
    const root = new Map(items.map((i) => [i.linkId, i.linkId]));
    const find = (id: string): string => {
      let at = id;
      while (root.get(at) !== at) { root.set(at, root.get(root.get(at)!)!); at = root.get(at)!; }
      return at;
    };
    for (const item of items) for (const id of closureOf(item)) root.set(find(id), find(item.linkId));
    const out = new Map<string, { members: Item[]; controls: string[] }>();
    for (const item of items) {
      const key = find(item.linkId);
      const own = out.get(key) ?? { members: [], controls: [] };
      own.members.push(item);
      if (domains.has(item.linkId)) own.controls.push(item.linkId);
      out.set(key, own);
    }
    return [...out.values()];
  }
}

const and = (a: Three, b: () => Three): Three => {
  if (a === false) return false;
  const second = b();
  return second === false ? false : a === undefined || second === undefined ? undefined : true;
};
