import { allItems } from "./walk";
import { plainWords, textOf, type AnswerValue } from "./answer-value";
import { languageName } from "../shared";
import { languagesOf, textsOf } from "./translation";
import {
  isQuestion,
  type AlertRule,
  type Band,
  type ScoreRule,
  type Comparison,
  type Condition,
  type Item,
  type Question,
  type Questionnaire,
  type ShownWhen,
} from "./definition";

export const comparisonWords: Readonly<Record<Exclude<Comparison, "exists">, string>> = {
  "=": "is",
  "!=": "is not",
  ">": "is more than",
  "<": "is less than",
  ">=": "is at least",
  "<=": "is at most",
};
const lower = (text: string): string => (text === "Yes" || text === "No" ? text.toLowerCase() : text);
const answerWords = (question: Question | undefined, answer: AnswerValue): string =>
  lower(
    textOf(
      question?.options.find(
        (o) => o.value.type === "coding" && answer.type === "coding" && o.value.value.code === answer.value.code,
      )?.value ?? answer,
      plainWords,
    ),
  );

/** "Shown when" read back as a sentence: “Do you smoke?” is yes and “How many a day?” is more than 10. */
export function shownWhenWords(
  item: { readonly shownWhen?: ShownWhen },
  questions: ReadonlyMap<string, Question>,
): string | undefined {
  const rule = item.shownWhen;
  if (!rule || rule.conditions.length === 0) return undefined;
  return rule.conditions.map((c) => conditionWords(c, questions)).join(rule.behavior === "all" ? " and " : " or ");
}
export function conditionWords(condition: Condition, questions: ReadonlyMap<string, Question>): string {
  const question = questions.get(condition.question);
  const name = `“${question?.text ?? condition.question}”`;
  if (condition.operator === "exists")
    return `${name} ${condition.answer.type === "boolean" && condition.answer.value ? "is answered" : "is not answered"}`;
  return `${name} ${comparisonWords[condition.operator]} ${answerWords(question, condition.answer)}`;
}
export const questionsByKey = (q: Questionnaire): Map<string, Question> =>
  new Map(
    allItems(q)
      .filter(isQuestion)
      .map((i) => [i.linkId, i]),
  );

/** One thing that differs between two versions, in words. */
export interface Difference {
  readonly kind: "added" | "removed" | "reworded" | "moved" | "rule" | "options" | "whole";
  readonly linkId?: string;
  readonly words: string;
}

/** What changed from one version to another, in reading order of the newer one; removed lines last. */
export function differences(from: Questionnaire, to: Questionnaire): Difference[] {
  const out: Difference[] = [];
  const before = new Map(allItems(from).map((i) => [i.linkId, i]));
  const after = allItems(to);
  const questionsBefore = questionsByKey(from);
  const questionsAfter = questionsByKey(to);
  const whole = (name: string, first: string | undefined, second: string | undefined): void => {
    const wordsOf = () => {
      if (second) {
        if (first) return `${name}: “${first}” is now “${second}”`;
        return `${name}: “${second}”`;
      }
      return `${name} taken away`;
    };
    if ((first ?? "") !== (second ?? ""))
      out.push({
        kind: "whole",
        words: wordsOf(),
      });
  };
  whole("Title", from.title, to.title);
  whole("Description", from.description, to.description);
  whole("Kind", from.kind, to.kind);
  if (from.signed !== to.signed)
    out.push({ kind: "whole", words: to.signed ? "Now signed by the client" : "No longer signed" });
  if (JSON.stringify(from.signing) !== JSON.stringify(to.signing))
    out.push({ kind: "whole", words: "What holds for all signatures changed" });
  for (const language of new Set([...languagesOf(from), ...languagesOf(to)])) {
    const changed = textsOf(to).filter(
      (t) => from.translations?.[language]?.[t.place]?.text !== to.translations?.[language]?.[t.place]?.text,
    ).length;
    if (changed > 0)
      out.push({
        kind: "whole",
        words: `${languageName(language)}: ${changed === 1 ? "one text" : `${changed} texts`} translated anew or taken away`,
      });
  }
  const moved = movedKeys(
    allItems(from).map((i) => i.linkId),
    after.map((i) => i.linkId),
  );
  for (const item of after) {
    const old = before.get(item.linkId);
    const tell = (kind: Difference["kind"], words: string): void => void out.push({ kind, linkId: item.linkId, words });
    if (!old) {
      tell("added", `Added: “${item.text}”`);
      continue;
    }
    if (old.text !== item.text) tell("reworded", `Reworded: “${old.text}” is now “${item.text}”`);
    if (moved.has(item.linkId)) tell("moved", `Moved: “${item.text}”`);
    const [was, is] = [shownWhenWords(old, questionsBefore), shownWhenWords(item, questionsAfter)];
    if (was !== is)
      tell("rule", `“${item.text}” is shown ${is ? `when ${is}` : "always"}${was ? ` (before: when ${was})` : ""}`);
    if (JSON.stringify(rules(old)) !== JSON.stringify(rules(item)))
      tell("rule", `“${item.text}”: ${ruleWords(old, item)}`);
    const options = (i: Item, questions: ReadonlyMap<string, Question>): string[] =>
      isQuestion(i)
        ? i.options.map(
            (o) =>
              `${textOf(o.value)}${o.ordinal === undefined ? "" : ` (${o.ordinal})`}${o.exclusive ? " (alone)" : ""}${o.shownWhen ? ` (only when ${shownWhenWords(o, questions)})` : ""}`,
          )
        : [];
    const [offered, offers] = [options(old, questionsBefore), options(item, questionsAfter)];
    if (offered.join("\n") !== offers.join("\n"))
      tell(
        "options",
        `“${item.text}” offers ${offers.join(", ") || "nothing"} (before: ${offered.join(", ") || "nothing"})`,
      );
  }
  const now = new Set(after.map((i) => i.linkId));
  for (const item of before.values())
    if (!now.has(item.linkId)) out.push({ kind: "removed", linkId: item.linkId, words: `Removed: “${item.text}”` });
  return out;
}

/** Everything about a line but its words, place, options and conditions. */
const rules = (item: Item): Record<string, unknown> => {
  const {
    linkId: _l,
    text: _t,
    shownWhen: _s,
    kept: _k,
    codes: _c,
    ...rest
  } = { ...item, items: undefined, options: undefined } as Record<string, unknown>;
  return rest;
};
const ruleNames: Readonly<Record<string, string>> = {
  required: "has to be answered",
  type: "kind",
  posting: "where it goes",
  score: "how it is scored",
  alert: "alert",
  help: "help",
  signature: "place to sign",
  minValue: "smallest",
  maxValue: "largest",
  maxLength: "longest",
  repeats: "several answers",
  control: "how it is shown",
  unit: "unit",
  ends: "words at the ends",
  terms: "terms",
  pattern: "format",
};
function ruleWords(old: Item, item: Item): string {
  const first = rules(old);
  const second = rules(item);
  return [...new Set([...Object.keys(first), ...Object.keys(second)])]
    .filter((k) => JSON.stringify(first[k]) !== JSON.stringify(second[k]))
    .map((k) => {
      if (k === "required") return second[k] ? "now has to be answered" : "may now be left out";
      if (k === "score") return scoreChange(first[k] as ScoreRule | undefined, second[k] as ScoreRule | undefined);
      if (k === "alert") return alertChange(first[k] as AlertRule | undefined, second[k] as AlertRule | undefined);
      if (k === "signer") return `who signs there changed`;
      if (k === "signing") return `how it is signed there changed`;
      return `${ruleNames[k] ?? k} changed`;
    })
    .join(", ");
}

/** "how it is scored changed: band “high” is from 10 to 21 (before: from 12 to 21)" */
function scoreChange(was: ScoreRule | undefined, is: ScoreRule | undefined): string {
  if (!was || !is) return is ? "is now a score" : "is no longer a score";
  const changed: string[] = [];
  if (was.method !== is.method) changed.push(`${is.method === "mean" ? "the mean" : "the sum"} is taken now`);
  const gone = was.items.filter((one) => !is.items.includes(one)).length;
  const come = is.items.filter((one) => !was.items.includes(one)).length;
  if (gone > 0) changed.push(`${gone === 1 ? "one question counts" : `${gone} questions count`} no longer`);
  if (come > 0) changed.push(`${come === 1 ? "one more question counts" : `${come} more questions count`}`);
  if (was.fewestAnswered !== is.fewestAnswered)
    changed.push(`given from ${is.fewestAnswered} answers on (before: ${was.fewestAnswered})`);
  if (was.proration !== is.proration)
    changed.push(
      is.proration === "none" ? "missing answers are no longer made up for" : "missing answers are made up for",
    );
  const bandWords = ({ low, high }: Band): string => `${low} to ${high}`;
  for (const band of is.bands) {
    const before = was.bands.find((other) => other.label === band.label);
    if (!before) changed.push(`new band “${band.label}”, ${bandWords(band)}`);
    else if (bandWords(before) !== bandWords(band))
      changed.push(`band “${band.label}” is ${bandWords(band)} (before: ${bandWords(before)})`);
  }
  for (const band of was.bands)
    if (!is.bands.some((other) => other.label === band.label)) changed.push(`no band “${band.label}” any more`);
  if (JSON.stringify(was.change) !== JSON.stringify(is.change))
    changed.push("what a change of it means is held otherwise");
  return `how it is scored changed${changed.length > 0 ? `: ${changed.join("; ")}` : ""}`;
}
function alertChange(was: AlertRule | undefined, is: AlertRule | undefined): string {
  if (!is) return `no alert any more (before: “${was?.message ?? ""}”, ${was ? alertTestWords(was) : ""})`;
  if (!was) return `now raises an alert: “${is.message}”, ${alertTestWords(is)}`;
  return `alert changed: “${is.message}”, ${alertTestWords(is)} (before: “${was.message}”, ${alertTestWords(was)})`;
}
function alertTestWords({ test }: AlertRule): string {
  switch (test.kind) {
    case "answers":
      return `on ${test.answers.map((answer) => `“${textOf(answer)}”`).join(" or ")}`;
    case "numbers":
      return `from ${test.low ?? "the lowest"} to ${test.high ?? "the highest"}`;
    case "unanswered":
      return "where it is left open";
    case "condition":
      return "on other answers";
  }
}

/** Keys that both have but that stand in another order: those outside a longest run that kept its order. */
function movedKeys(before: readonly string[], after: readonly string[]): Set<string> {
  const place = new Map(before.map((id, i) => [id, i]));
  const both = after.filter((id) => place.has(id));
  // Longest increasing subsequence, with for each length the index of its smallest end.
  const ends: number[] = [];
  const previous = both.map(() => -1);
  both.forEach((id, index) => {
    let low = 0;
    let high = ends.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (place.get(both[ends[middle]!]!)! < place.get(id)!) low = middle + 1;
      else high = middle;
    }
    previous[index] = low > 0 ? ends[low - 1]! : -1;
    ends[low] = index;
  });
  const stayed = new Set<string>();
  for (let index = ends.at(-1) ?? -1; index >= 0; index = previous[index]!) stayed.add(both[index]!);
  return new Set(both.filter((id) => !stayed.has(id)));
}
