import { allItems, childrenOf, conditionMet, isQuestion, type AnswerValue, type Condition, type Item, type Questionnaire } from '../questionnaire';
import { representatives, type Domain } from './domains';

/** `undefined`: too many ways to try them all. */
type Told = boolean | undefined;

/**
 * What is true over all ways through a questionnaire. Only conditions on earlier questions take part (the others are
 * errors of their own), so questions are answered in reading order. A row of a repeating group counts as one row.
 *
 * Items that hang together by conditions are swept once in reading order, keeping apart only what a later item still asks
 * about: ways that differ in nothing later are one. So the work grows with how entangled the conditions are at any one
 * place, not with how many there are.
 */
export interface Paths {
  /** Whether some answers show it, incomplete ones included. */
  reachable(item: Item): Told;
  /** Whether its own conditions can fail while it could be shown, for somebody who answers everything required. */
  canHide(item: Item): Told;
  /** Fewest and most questions shown to somebody who answers everything required; bounds where `exact` is false. */
  count(): { readonly fewest: number; readonly most: number; readonly exact: boolean };
  /** Gathers a value over every way of answering everything required. */
  gather<V>(fold: Fold<V>): { readonly value: V; readonly exact: boolean };
}
export interface Fold<V> {
  readonly start: V;
  /** @param alike what a controlling question's answer can be on this way; undefined for one whose answer decides nothing. */
  step(value: V, item: Item, shown: boolean, alike: Domain['alike'][number] | undefined): V;
  /** Two ways that are one from here on. */
  merge(a: V, b: V): V;
  /** Two parts of the questionnaire that do not depend on each other. */
  join(a: V, b: V): V;
  /** Stands in for a part with too many ways. */
  bound(members: readonly Item[]): V;
}

/** More ways than this to be kept apart at one place are given up. */
const mostWays = 4_000;

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
  /** For each question, the conditions on it in the reading order of those who ask: a way's `truths` follow this list. */
  const asked = new Map<string, Condition[]>();
  for (const item of items) for (const c of item.shownWhen?.conditions ?? []) if (usable(item, c)) push(asked, c.question, c);
  const place = new Map<Condition, number>();
  for (const list of asked.values()) list.forEach((c, i) => place.set(c, i));

  const exists = (id: string): Condition => ({ question: id, operator: 'exists', answer: { type: 'boolean', value: true } });
  const domains = new Map<string, Domain & { readonly truths: readonly string[] }>();
  let exactDomains = true;
  for (const item of items) {
    if (!isQuestion(item) || item.score || (!asked.has(item.linkId) && !item.items.some((i) => i.type !== 'display'))) continue;
    const conditions = asked.get(item.linkId) ?? [];
    const domain = representatives(item, [...conditions, exists(item.linkId)]);
    domains.set(item.linkId, { ...domain, truths: domain.answers.map((answer) => truthsOf(conditions, answer)) });
    exactDomains &&= domain.exact;
  }
  const unanswered = new Map([...domains.keys()].map((id) => [id, truthsOf(asked.get(id) ?? [], [])]));

  const components = findComponents();

  // A way through the part swept so far is a short text: for each item that a later one asks about, one sign that says
  // hidden, or shown with which of its answers. Signs that nothing later tells apart are written the same.
  interface Stop {
    readonly item: Item;
    readonly parentAt: number;
    /** Where the questions of the item's conditions stand in the text before it, with what each sign means for it. */
    readonly tests: readonly { readonly at: number; readonly met: readonly boolean[] }[];
    readonly keep: readonly number[];
    readonly kept: boolean;
    /** For each place of the text after it: a sign, and the one that stands for it from here on. */
    readonly same: readonly (readonly number[])[];
  }
  function stopsOf(members: readonly Item[]): Stop[] {
    const lastUse = new Map<string, number>(), lastChild = new Map<string, number>();
    members.forEach((item, index) => {
      const parent = parents.get(item.linkId);
      if (parent) { lastUse.set(parent.linkId, index); lastChild.set(parent.linkId, index); }
      for (const c of item.shownWhen?.conditions ?? []) if (usable(item, c)) lastUse.set(c.question, index);
    });
    const behind = new Map<string, number>();
    let live: string[] = [];
    return members.map((item, index) => {
      const conditions = item.shownWhen?.conditions ?? [];
      const tests = conditions.map((c) => ({ at: usable(item, c) ? live.indexOf(c.question) : -1, met: usable(item, c) ? [conditionMet(c, []), ...domains.get(c.question)!.answers.map((a) => conditionMet(c, a))] : [] }));
      for (const c of conditions) if (usable(item, c)) behind.set(c.question, place.get(c)! + 1);
      const parent = parents.get(item.linkId);
      const parentAt = parent ? live.indexOf(parent.linkId) : -1;
      const keep = live.flatMap((id, i) => (lastUse.get(id)! > index ? [i] : []));
      const kept = (lastUse.get(item.linkId) ?? -1) > index;
      live = [...keep.map((i) => live[i]!), ...(kept ? [item.linkId] : [])];
      const same = live.map((id) => {
        const domain = domains.get(id), from = behind.get(id) ?? 0, childLater = (lastChild.get(id) ?? -1) > index;
        const meaning = ['-' + (domain ? unanswered.get(id)!.slice(from) : ''), ...(domain ? domain.truths.map((t, i) => `${childLater ? `${i > 0}` : '-'}${t.slice(from)}`) : ['shown'])];
        return meaning.map((m) => meaning.indexOf(m));
      });
      return { item, parentAt, tests, keep, kept, same };
    });
  }

  function sweep<V>(members: readonly Item[], complete: boolean, fold: Pick<Fold<V>, 'start' | 'step' | 'merge'>, see?: (item: Item, shown: boolean, parentShown: boolean) => void): V | undefined {
    let ways = new Map<string, V>([['', fold.start]]);
    for (const { item, parentAt, tests, keep, kept, same } of stopsOf(members)) {
      const parent = parents.get(item.linkId), domain = domains.get(item.linkId);
      const needsAnswer = parent !== undefined && isQuestion(parent) && item.type !== 'display';
      const first = complete && item.type !== 'display' && item.required && domain && domain.answers.length > 1 ? 1 : 0;
      const next = new Map<string, V>();
      for (const [way, value] of ways) {
        const above = parentAt < 0 ? 1 : way.charCodeAt(parentAt);
        const parentShown = above > (needsAnswer ? 1 : 0);
        const met = (t: Stop['tests'][number]): boolean => t.at >= 0 && t.met[way.charCodeAt(t.at)]!;
        const shown = parentShown && (tests.length === 0 || (item.shownWhen!.behavior === 'all' ? tests.every(met) : tests.some(met)));
        see?.(item, shown, parentShown);
        let stem = '';
        for (let i = 0; i < keep.length; i++) stem += String.fromCharCode(same[i]![way.charCodeAt(keep[i]!)]!);
        const last = shown && domain ? domain.answers.length : 1;
        for (let choice = shown && domain ? first : 0; choice < last; choice++) {
          const worth = fold.step(value, item, shown, domain ? domain.alike[shown ? choice : 0] : undefined);
          const key = kept ? stem + String.fromCharCode(same[keep.length]![shown ? 1 + choice : 0]!) : stem;
          const known = next.get(key);
          next.set(key, known === undefined ? worth : fold.merge(known, worth));
        }
      }
      if (next.size > mostWays) return undefined;
      ways = next;
    }
    let all: V | undefined;
    for (const value of ways.values()) all = all === undefined ? value : fold.merge(all, value);
    return all;
  }

  const nothing = { start: 0, step: () => 0, merge: () => 0 };
  let told: { reachable: Set<string>; hidden: Set<string>; unknown: Set<string> } | undefined;
  const tell = (): NonNullable<typeof told> => {
    if (told) return told;
    told = { reachable: new Set(), hidden: new Set(), unknown: new Set() };
    for (const members of components) {
      const whole = sweep(members, false, nothing, (item, shown) => { if (shown) told!.reachable.add(item.linkId); }) !== undefined
        && sweep(members, true, nothing, (item, shown, parentShown) => { if (parentShown && !shown) told!.hidden.add(item.linkId); }) !== undefined;
      // With answers left untold apart, what was seen is so, and what was not seen is not known.
      if (!whole || members.some((i) => domains.get(i.linkId)?.exact === false)) members.forEach((i) => told!.unknown.add(i.linkId));
    }
    return told;
  };
  const gather = <V>(fold: Fold<V>): { value: V; exact: boolean } => {
    let exact = exactDomains, value = fold.start;
    for (const members of components) {
      const part = sweep(members, true, fold);
      if (part === undefined) exact = false;
      value = fold.join(value, part ?? fold.bound(members));
    }
    return { value, exact };
  };
  const counts = (item: Item): boolean => isQuestion(item) && !item.readOnly && !item.score;

  return {
    reachable: (item) => tell().reachable.has(item.linkId) || (told!.unknown.has(item.linkId) ? undefined : false),
    canHide: (item) => tell().hidden.has(item.linkId) || (told!.unknown.has(item.linkId) ? undefined : false),
    gather,
    count() {
      const { value, exact } = gather<readonly [number, number]>({
        start: [0, 0],
        step: ([low, high], item, shown) => (shown && counts(item) ? [low + Number(!inOptionalRows(item)), high + 1] : [low, high]),
        merge: (a, b) => [Math.min(a[0], b[0]), Math.max(a[1], b[1])],
        join: (a, b) => [a[0] + b[0], a[1] + b[1]],
        bound: (members) => [members.filter((i) => counts(i) && !hangs(i) && !inOptionalRows(i)).length, members.filter(counts).length],
      });
      return { fewest: value[0], most: value[1], exact };
    },
  };

  function inOptionalRows(item: Item): boolean {
    for (let p = parents.get(item.linkId); p; p = parents.get(p.linkId)) if (p.type === 'group' && p.repeats && !p.required) return true;
    return false;
  }
  /** Whether anything at all decides if it is shown. */
  function hangs(item: Item): boolean {
    if (item.shownWhen && item.shownWhen.conditions.length > 0) return true;
    const parent = parents.get(item.linkId);
    return parent !== undefined && (isQuestion(parent) || hangs(parent));
  }
  function findComponents(): Item[][] {
    const root = new Map(items.map((i) => [i.linkId, i.linkId]));
    const find = (id: string): string => {
      let at = id;
      while (root.get(at) !== at) { root.set(at, root.get(root.get(at)!)!); at = root.get(at)!; }
      return at;
    };
    for (const item of items) {
      const parent = parents.get(item.linkId);
      if (parent && hangs(item) && (isQuestion(parent) || hangs(parent))) root.set(find(parent.linkId), find(item.linkId));
      for (const c of item.shownWhen?.conditions ?? []) if (usable(item, c)) root.set(find(c.question), find(item.linkId));
    }
    const out = new Map<string, Item[]>();
    for (const item of items) push(out, find(item.linkId), item);
    return [...out.values()];
  }
}

const truthsOf = (conditions: readonly Condition[], answer: readonly AnswerValue[]): string => conditions.map((c) => Number(conditionMet(c, answer))).join('');
function push<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}
