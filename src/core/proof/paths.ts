import {
  allItems,
  childrenOf,
  combine,
  conditionMet,
  conditionsOf,
  contribution,
  isQuestion,
  numbersOf,
  sameValue,
  weightOf,
  type AnswerOption,
  type AnswerValue,
  type Condition,
  type Item,
  type Question,
  type Questionnaire,
  type ScoreRule,
} from "../questionnaire";
import { representatives, type Domain } from "./domains";

/** `undefined`: too many ways to try them all. */
type Told = boolean | undefined;

/**
 * What is true over all ways through a questionnaire. Only conditions on earlier questions take part (the others are
 * errors of their own), so questions are answered in reading order. A row of a repeating group counts as one row.
 *
 * Items that hang together by conditions are swept once in reading order, keeping apart only what a later item still
 * asks about: ways that differ in nothing later are one. So the work grows with how entangled the conditions are at any
 * one place, not with how many there are.
 */
export interface Paths {
  /** Whether some answers show it, incomplete ones included. */
  reachable(item: Item): Told;
  /** Whether its own conditions can fail while it could be shown, for somebody who answers everything required. */
  canHide(item: Item): Told;
  /** Whether some answers offer this option while its question is shown; true for one without conditions. */
  offers(item: Item, option: AnswerOption): Told;
  /** Whether it can be shown with none of its options left, for somebody who answers everything required. */
  runsDry(item: Item): Told;
  /** Fewest and most questions shown to somebody who answers everything required; bounds where `exact` is false. */
  count(): { readonly fewest: number; readonly most: number; readonly exact: boolean };
  /** Gathers a value over every way of answering everything required. */
  gather<V>(fold: Fold<V>): { readonly value: V; readonly exact: boolean };
}
export interface Fold<V> {
  readonly start: V;
  /**
   * @param alike what a controlling question's answer can be on this way; undefined for one whose answer decides
   * nothing.
   */
  step(value: V, item: Item, shown: boolean, alike: Domain["alike"][number] | undefined): V;
  /** Two ways that are one from here on. */
  merge(left: V, right: V): V;
  /** Two parts of the questionnaire that do not depend on each other. */
  join(left: V, right: V): V;
  /** Stands in for a part with too many ways. */
  bound(members: readonly Item[]): V;
}

/** More ways than this to be kept apart at one place are given up. */
const mostWays = 4_000;
/** Longest stretch of whole numbers whose every one is told apart, where a score that decides something counts it. */
const mostNumbers = 200;

export function pathsOf(questionnaire: Questionnaire): Paths {
  const items = allItems(questionnaire);
  const order = new Map(items.map((item, i) => [item.linkId, i]));
  const byId = new Map(items.map((item) => [item.linkId, item]));
  const parents = new Map<string, Item>();
  for (const item of items) for (const child of childrenOf(item)) parents.set(child.linkId, item);

  const usable = (item: Item, c: Condition): boolean => {
    const target = byId.get(c.question);
    if (target === undefined || !isQuestion(target)) return false;
    if (target.score)
      return deciding.get(target.linkId)?.items.every((i) => order.get(i.linkId)! < order.get(item.linkId)!) === true;
    return order.get(c.question)! < order.get(item.linkId)!;
  };
  const { deciding, vague } = decidingScores();
  /**
   * For each question, the conditions on it in the reading order of those who ask: a way's `truths` follow this list.
   */
  const asked = new Map<string, Condition[]>();
  for (const item of items)
    for (const condition of conditionsOf(item))
      if (usable(item, condition) && !deciding.has(condition.question)) push(asked, condition.question, condition);
  const place = new Map<Condition, number>();
  for (const list of asked.values()) list.forEach((c, i) => place.set(c, i));

  const exists = (id: string): Condition => ({
    question: id,
    operator: "exists",
    answer: { type: "boolean", value: true },
  });
  const domains = new Map<string, Domain & { readonly truths: readonly string[] }>();
  let exactDomains = true;
  for (const item of items) {
    if (!isQuestion(item) || item.score) continue;
    const counts = [...deciding.values()].some((s) => s.items.includes(item));
    const choosy = item.options.filter((o) => o.shownWhen);
    if (!asked.has(item.linkId) && !counts && choosy.length === 0 && !item.items.some((i) => i.type !== "display"))
      continue;
    const conditions = asked.get(item.linkId) ?? [];
    const range = counts && item.options.length === 0 ? numbersOf(item) : undefined;
    const numbers = range
      ? Array.from({ length: Math.floor((range.high - range.low) / (item.step ?? 1)) + 1 }, (_, i): AnswerValue => ({
          type: "integer",
          value: range.low + i * (item.step ?? 1),
        }))
      : [];
    const apart = (given: readonly AnswerValue[]): string =>
      `${counts && given[0] ? weightOf(item, given[0]) : ""} ${choosy.map((o) => Number(given.some((v) => sameValue(v, o.value)))).join("")}`;
    const domain = representatives(
      item,
      [...conditions, exists(item.linkId)],
      [...numbers, ...choosy.map((o) => o.value)],
      apart,
    );
    domains.set(item.linkId, { ...domain, truths: domain.answers.map((answer) => truthsOf(conditions, answer)) });
    exactDomains &&= domain.exact;
  }
  const unanswered = new Map([...domains.keys()].map((id) => [id, truthsOf(asked.get(id) ?? [], [])]));

  const components = findComponents();

  // A way through the part swept so far is a short text: for each item that a later one asks about, one sign that says
  // hidden, or shown with which of its answers; for each score that a later one asks about, one that says how many were
  // answered and what they add up to. Signs that nothing later tells apart are written the same.
  interface Test {
    readonly at: number;
    readonly met: (sign: number) => boolean;
  }
  interface Stop {
    readonly item: Item;
    readonly parentAt: number;
    /** Where what the item's conditions ask about stands in the text before it, with what each sign means for it. */
    readonly tests: readonly Test[];
    /** The same for each of its options; undefined for those without conditions. */
    readonly options: readonly (readonly Test[] | undefined)[];
    /** For each of its answers, the options in it that have conditions. */
    readonly needs: readonly (readonly number[])[];
    /** For each place of the text after it that holds a score counting it: the sign after each of its answers. */
    readonly adds: readonly (((sign: number, choice: number) => number) | undefined)[];
    readonly keep: readonly number[];
    readonly kept: boolean;
    /** For each place of the text after it: a sign, and the one that stands for it from here on. */
    readonly same: readonly (readonly number[])[];
  }
  function stopsOf(members: readonly Item[]): Stop[] {
    const lastUse = new Map<string, number>();
    const lastChild = new Map<string, number>();
    members.forEach((item, index) => {
      const parent = parents.get(item.linkId);
      if (parent) {
        lastUse.set(parent.linkId, index);
        lastChild.set(parent.linkId, index);
      }
      for (const c of conditionsOf(item)) if (usable(item, c)) lastUse.set(c.question, index);
    });
    const behind = new Map<string, number>();
    let live: string[] = scoresOf(members);
    return members.map((item, index) => {
      const conditions = conditionsOf(item);
      const test = (c: Condition): Test => {
        if (!usable(item, c)) return { at: -1, met: () => false };
        const score = deciding.get(c.question);
        if (score) return { at: live.indexOf(c.question), met: (sign) => score.meets(c, sign) };
        const met = [conditionMet(c, []), ...domains.get(c.question)!.answers.map((a) => conditionMet(c, a))];
        return { at: live.indexOf(c.question), met: (sign) => met[sign]! };
      };
      const tests = (item.shownWhen?.conditions ?? []).map(test);
      const options =
        isQuestion(item) && item.options.some((o) => o.shownWhen)
          ? item.options.map((o) => o.shownWhen?.conditions.map(test))
          : [];
      const own = domains.get(item.linkId);
      const needs =
        options.length > 0
          ? own!.answers.map((given) =>
              (item as Question).options.flatMap((o, i) =>
                o.shownWhen && given.some((v) => sameValue(v, o.value)) ? [i] : [],
              ),
            )
          : [];
      for (const condition of conditions)
        if (usable(item, condition) && !deciding.has(condition.question))
          behind.set(condition.question, place.get(condition)! + 1);
      const parent = parents.get(item.linkId);
      const parentAt = parent ? live.indexOf(parent.linkId) : -1;
      const keep = live.flatMap((id, i) => (lastUse.get(id)! > index ? [i] : []));
      const kept = (lastUse.get(item.linkId) ?? -1) > index;
      live = [...keep.map((i) => live[i]!), ...(kept ? [item.linkId] : [])];
      const adds = live.map((id) => {
        const score = id === item.linkId ? undefined : deciding.get(id);
        return score && isQuestion(item) && score.items.includes(item)
          ? (sign: number, choice: number) => score.after(sign, item, own!.answers[choice]!)
          : undefined;
      });
      const same = live.map((id) => {
        if (deciding.has(id)) return [];
        const domain = domains.get(id);
        const from = behind.get(id) ?? 0;
        const childLater = (lastChild.get(id) ?? -1) > index;
        const meaning = [
          "-" + (domain ? unanswered.get(id)!.slice(from) : ""),
          ...(domain ? domain.truths.map((t, i) => `${childLater ? `${i > 0}` : "-"}${t.slice(from)}`) : ["shown"]),
        ];
        return meaning.map((m) => meaning.indexOf(m));
      });
      return { item, parentAt, tests, options, needs, adds, keep, kept, same };
    });
  }

  function sweep<V>(
    members: readonly Item[],
    complete: boolean,
    fold: Pick<Fold<V>, "start" | "step" | "merge">,
    see?: (item: Item, shown: boolean, parentShown: boolean, offered: readonly boolean[]) => void,
  ): V | undefined {
    let ways = new Map<string, V>([["\0".repeat(scoresOf(members).length), fold.start]]);
    for (const { item, parentAt, tests, options, needs, adds, keep, kept, same } of stopsOf(members)) {
      const parent = parents.get(item.linkId);
      const domain = domains.get(item.linkId);
      const needsAnswer = parent !== undefined && isQuestion(parent) && item.type !== "display";
      const first = complete && item.type !== "display" && item.required && domain && domain.answers.length > 1 ? 1 : 0;
      const next = new Map<string, V>();
      for (const [way, value] of ways) {
        const above = parentAt < 0 ? 1 : way.charCodeAt(parentAt);
        const parentShown = above > (needsAnswer ? 1 : 0);
        const met = (t: Test): boolean => t.at >= 0 && t.met(way.charCodeAt(t.at));
        const shown =
          parentShown &&
          (tests.length === 0 || (item.shownWhen!.behavior === "all" ? tests.every(met) : tests.some(met)));
        const offered = options.map(
          (list, i) =>
            list === undefined ||
            ((item as Question).options[i]!.shownWhen!.behavior === "all" ? list.every(met) : list.some(met)),
        );
        see?.(item, shown, parentShown, offered);
        const stemFor = (choice: number | undefined): string => {
          let stem = "";
          for (let index = 0; index < keep.length; index++) {
            const sign = way.charCodeAt(keep[index]!);
            const add = choice === undefined ? undefined : adds[index];
            stem += String.fromCharCode(add ? add(sign, choice!) : (same[index]![sign] ?? sign));
          }
          return stem;
        };
        const plain = stemFor(undefined);
        const counted = shown && adds.some(Boolean);
        const possible =
          shown && domain
            ? domain.answers.flatMap((_, i) => (i >= first && needs[i]?.every((o) => offered[o]) !== false ? [i] : []))
            : [0];
        // None of its options is left where it has to be answered: nobody comes this way to the end.
        for (const choice of possible.length > 0 || first > 0 ? possible : [0]) {
          const stem = counted ? stemFor(choice) : plain;
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
  let told:
    | {
        reachable: Set<string>;
        hidden: Set<string>;
        unknown: Set<string>;
        offered: Set<AnswerOption>;
        dry: Set<string>;
      }
    | undefined;
  const tell = (): NonNullable<typeof told> => {
    if (told) return told;
    told = { reachable: new Set(), hidden: new Set(), unknown: new Set(), offered: new Set(), dry: new Set() };
    for (const members of components) {
      const whole =
        sweep(members, false, nothing, (item, shown, _, offered) => {
          if (!shown) return;
          told!.reachable.add(item.linkId);
          offered.forEach((yes, i) => {
            if (yes) told!.offered.add((item as Question).options[i]!);
          });
        }) !== undefined &&
        sweep(members, true, nothing, (item, shown, parentShown, offered) => {
          if (parentShown && !shown) told!.hidden.add(item.linkId);
          if (shown && offered.length > 0 && !offered.some(Boolean)) told!.dry.add(item.linkId);
        }) !== undefined;
      // With answers left untold apart, what was seen is so, and what was not seen is not known.
      if (
        !whole ||
        members.some(
          (i) => domains.get(i.linkId)?.exact === false || conditionsOf(i).some((c) => vague.has(c.question)),
        )
      )
        members.forEach((i) => told!.unknown.add(i.linkId));
    }
    return told;
  };
  const gather = <V>(fold: Fold<V>): { value: V; exact: boolean } => {
    let exact = exactDomains && vague.size === 0;
    let value = fold.start;
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
    offers: (item, option) =>
      option.shownWhen === undefined ||
      (tell(), told!.offered.has(option)) ||
      (told!.unknown.has(item.linkId) ? undefined : false),
    runsDry: (item) => (tell(), told!.dry.has(item.linkId)) || (told!.unknown.has(item.linkId) ? undefined : false),
    gather,
    count() {
      const { value, exact } = gather<readonly [number, number]>({
        start: [0, 0],
        step: ([low, high], item, shown) =>
          shown && counts(item) ? [low + Number(!inOptionalRows(item)), high + 1] : [low, high],
        merge: (a, b) => [Math.min(a[0], b[0]), Math.max(a[1], b[1])],
        join: (a, b) => [a[0] + b[0], a[1] + b[1]],
        bound: (members) => [
          members.filter((i) => counts(i) && !hangs(i) && !inOptionalRows(i)).length,
          members.filter(counts).length,
        ],
      });
      return { fewest: value[0], most: value[1], exact };
    },
  };

  /** Scores that these members ask about, in a fixed order. */
  function scoresOf(members: readonly Item[]): string[] {
    return [...deciding.keys()].filter((id) =>
      members.some((m) => conditionsOf(m).some((c) => c.question === id && usable(m, c))),
    );
  }
  /**
   * Scores that conditions ask about. Of some not every number can be told apart, or they hang on conditions
   * themselves: what those decide is not known.
   */
  function decidingScores(): { deciding: Map<string, RunningScore>; vague: Set<string> } {
    const known = new Map<string, RunningScore>();
    const unknown = new Set<string>();
    for (const id of new Set(items.flatMap((i) => conditionsOf(i).map((c) => c.question)))) {
      const scored = byId.get(id);
      if (!scored || !isQuestion(scored) || !scored.score) continue;
      const counted = scored.score.items.flatMap((i) => {
        const item = byId.get(i);
        return item && isQuestion(item) ? [item] : [];
      });
      const told = counted.every((question) => {
        const range = numbersOf(question);
        return (
          !question.repeats &&
          !inRows(question) &&
          (range === undefined
            ? question.options.length > 0 ||
              (question.type !== "integer" && question.type !== "decimal" && question.type !== "quantity")
            : range.each !== undefined || (question.type === "integer" && range.high - range.low <= mostNumbers))
        );
      });
      if (told && !hangs(scored)) known.set(id, runningScore(scored.score, counted));
      else unknown.add(id);
    }
    return { deciding: known, vague: unknown };
  }
  function inRows(item: Item): boolean {
    for (let parent = parents.get(item.linkId); parent; parent = parents.get(parent.linkId))
      if (parent.type === "group" && parent.repeats) return true;
    return false;
  }
  function inOptionalRows(item: Item): boolean {
    for (let parent = parents.get(item.linkId); parent; parent = parents.get(parent.linkId))
      if (parent.type === "group" && parent.repeats && !parent.required) return true;
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
      while (root.get(at) !== at) {
        root.set(at, root.get(root.get(at)!)!);
        at = root.get(at)!;
      }
      return at;
    };
    for (const item of items) {
      const parent = parents.get(item.linkId);
      if (parent && hangs(item) && (isQuestion(parent) || hangs(parent)))
        root.set(find(parent.linkId), find(item.linkId));
      for (const condition of conditionsOf(item))
        if (usable(item, condition))
          for (const id of [
            condition.question,
            ...(deciding.get(condition.question)?.items.map((i) => i.linkId) ?? []),
          ])
            root.set(find(id), find(item.linkId));
    }
    const out = new Map<string, Item[]>();
    for (const item of items) push(out, find(item.linkId), item);
    return [...out.values()];
  }
}

/** A score as it adds up along a way; each state has a small number, 0 the one before anything was answered. */
interface RunningScore {
  readonly items: readonly Question[];
  after(state: number, item: Question, given: readonly AnswerValue[]): number;
  meets(condition: Condition, state: number): boolean;
}
function runningScore(rule: ScoreRule, items: readonly Question[]): RunningScore {
  const states = [{ answered: 0, sum: 0 }];
  const numbers = new Map([["0 0", 0]]);
  return {
    items,
    after(state, item, given) {
      const number = given[0] && weightOf(item, given[0]);
      if (number === undefined) return state;
      const { answered, sum } = states[state]!;
      const next = {
        answered: answered + 1,
        sum: Math.round((sum + contribution(rule, item, number)) * 10_000) / 10_000,
      };
      const key = `${next.answered} ${next.sum}`;
      const known = numbers.get(key);
      if (known !== undefined) return known;
      numbers.set(key, states.push(next) - 1);
      return states.length - 1;
    },
    meets(condition, state) {
      const { answered, sum } = states[state]!;
      const value = combine(rule, sum, answered, items.length);
      return conditionMet(condition, value === undefined ? [] : [{ type: "decimal", value }]);
    },
  };
}

const truthsOf = (conditions: readonly Condition[], answer: readonly AnswerValue[]): string =>
  conditions.map((c) => Number(conditionMet(c, answer))).join("");
function push<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}
