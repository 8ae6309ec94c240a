import { fieldByKey, postingProblems, type ChartField } from "../chart";
import {
  allItems,
  conditionMet,
  conditionsOf,
  isGroup,
  isQuestion,
  isSignaturePlace,
  languagesOf,
  numbersOf,
  sameValue,
  sourceLanguage,
  textOf,
  textsOf,
  translationState,
  type Condition,
  type Item,
  type Question,
  type Questionnaire,
} from "../questionnaire";
import { languageName } from "../shared";
import { minutesFor } from "./minutes";
import { pathsOf, type Paths } from "./paths";
import { readingOf } from "./reading";
import { possibleScores, type ScoreRange } from "./score-range";

export type FindingCode =
  | "no-title"
  | "no-questions"
  | "doubled-key"
  | "no-words"
  | "empty-section"
  | "too-few-options"
  | "doubled-option"
  | "condition-nowhere"
  | "condition-forward"
  | "condition-circular"
  | "condition-no-option"
  | "never-shown"
  | "required-never-shown"
  | "score-empty"
  | "score-not-numeric"
  | "band-gap"
  | "band-overlap"
  | "consent-unsigned"
  | "unknown-field"
  | "option-never-shown"
  | "no-option-left"
  | "always-shown"
  | "goes-nowhere"
  | "hard-to-read"
  | "untranslated"
  | "no-way-out"
  | "too-many-ways";
export interface Finding {
  readonly level: "error" | "warning";
  readonly code: FindingCode;
  /** The question or section it is about; none when it is the whole questionnaire. */
  readonly linkId?: string;
  readonly message: string;
}
export interface ProofReport {
  readonly findings: readonly Finding[];
  readonly facts: {
    readonly questions: number;
    readonly fewest: number;
    readonly most: number;
    /** False when the fewest and most are bounds, because there were too many ways to try. */
    readonly exact: boolean;
    /** Minutes for somebody who meets the most questions; see `minutesFor`. */
    readonly minutes: number;
    readonly scores: readonly {
      readonly linkId: string;
      readonly title: string;
      readonly range: ScoreRange | undefined;
    }[];
  };
}
export const hasErrors = (report: ProofReport): boolean => report.findings.some((f) => f.level === "error");

/** Checks a questionnaire before anybody gets it. Errors keep it from being put in use; warnings are for judging. */
export function proof(questionnaire: Questionnaire, fields: readonly ChartField[]): ProofReport {
  const findings: Finding[] = [];
  const items = allItems(questionnaire);
  const add = (level: Finding["level"], code: FindingCode, message: string, item?: Item): void =>
    void findings.push({ level, code, message, ...(item ? { linkId: item.linkId } : {}) });
  const paths = pathsOf(questionnaire);
  const scores = items
    .filter(isQuestion)
    .filter((q) => q.score)
    .map((q) => ({ linkId: q.linkId, title: q.text, range: possibleScores(questionnaire, q.score!, paths) }));

  if (questionnaire.title.trim() === "") add("error", "no-title", "Give the questionnaire a title.");
  if (!items.some(isQuestion)) add("error", "no-questions", "There is no question yet.");
  if (questionnaire.kind === "consent" && !questionnaire.signed && !items.some(isSignaturePlace))
    add("error", "consent-unsigned", "A consent has to be signed. Turn on the signature, or give it a place to sign.");
  checkKeys(items, add);
  for (const item of items) checkWords(item, add);
  const byId = new Map(items.map((i) => [i.linkId, i]));
  for (const part of postingProblems(questionnaire, fields))
    add("error", "unknown-field", part.problem, byId.get(part.linkId));
  checkConditions(items, add);
  checkPaths(items, paths, add);
  for (const item of items)
    if (isQuestion(item) && item.score)
      checkScore(item, items, scores.find((s) => s.linkId === item.linkId)?.range, add);
  checkUse(questionnaire, items, fields, add);
  checkTranslations(questionnaire, add);

  const counted = paths.count();
  return {
    findings: findings.sort((a, b) => Number(b.level === "error") - Number(a.level === "error")),
    facts: {
      questions: items.filter((i) => isQuestion(i) && !i.readOnly && !i.score).length,
      ...counted,
      minutes: minutesFor(questionnaire, counted.most),
      scores,
    },
  };
}
type Add = (level: Finding["level"], code: FindingCode, message: string, item?: Item) => void;
const short = (text: string): string => `“${text.length > 60 ? `${text.slice(0, 59)}…` : text}”`;

function checkKeys(items: readonly Item[], add: Add): void {
  const seen = new Set<string>();
  for (const item of items) {
    if (seen.has(item.linkId)) add("error", "doubled-key", `The key "${item.linkId}" stands twice.`, item);
    seen.add(item.linkId);
  }
}

function checkWords(item: Item, add: Add): void {
  const whatIsMissing = () => {
    if (item.type === "group") return "This section has no title.";
    if (item.type === "display") {
      if (item.signature) return "This signature place does not say what is agreed to.";
      return "This text is empty.";
    }
    return "This question has no words yet.";
  };
  if (item.text.trim() === "") add("error", "no-words", whatIsMissing(), item);
  if (isGroup(item) && item.items.length === 0)
    add("error", "empty-section", `${short(item.text)} has no questions.`, item);
  if (isQuestion(item)) {
    if (item.terms?.trim() === "") add("error", "no-words", `${short(item.text)} has no terms to open.`, item);
    if (
      (item.type === "choice" || item.type === "open-choice") &&
      item.options.length < (item.type === "choice" && !item.repeats ? 2 : 1)
    )
      add(
        "error",
        "too-few-options",
        `${short(item.text)} needs ${item.options.length === 0 ? "options" : "at least two options"}.`,
        item,
      );
    item.options.forEach((o, i) => {
      if (item.options.some((other, j) => j < i && sameValue(other.value, o.value)))
        add("error", "doubled-option", `${short(item.text)} has the same option twice.`, item);
    });
  }
}

function checkConditions(items: readonly Item[], add: Add): void {
  const at = new Map(items.map((item, i) => [item.linkId, i]));
  // What is asked about a score is asked about what it counts.
  const targets = new Map(
    items.map((item) => [
      item.linkId,
      [...conditionsOf(item).map((c) => c.question), ...(isQuestion(item) ? (item.score?.items ?? []) : [])],
    ]),
  );
  const lastOf = (target: Question): number =>
    Math.max(...(target.score ? target.score.items : [target.linkId]).map((id) => at.get(id) ?? -1));
  for (const [index, item] of items.entries()) {
    for (const condition of conditionsOf(item)) {
      const target = items[at.get(condition.question) ?? -1];
      if (!target || !isQuestion(target)) {
        add(
          "error",
          "condition-nowhere",
          `${short(item.text)} is shown by a question that is not there any more.`,
          item,
        );
        continue;
      }
      if (reaches(condition.question, item.linkId, targets))
        add(
          "error",
          "condition-circular",
          condition.question === item.linkId
            ? `${short(item.text)} is shown by its own answer.`
            : `${short(item.text)} and ${short(target.text)} wait for each other.`,
          item,
        );
      else if (lastOf(target) >= index)
        add(
          "error",
          "condition-forward",
          `${short(item.text)} is shown by ${short(target.text)}, which comes after it${target.score ? " with what it counts" : ""}.`,
          item,
        );
      if (isQuestion(target) && missesOption(target, condition))
        add(
          "error",
          "condition-no-option",
          `${short(item.text)} is shown by an answer that ${short(target.text)} does not offer.`,
          item,
        );
    }
  }
}
const missesOption = (target: Question, c: Condition): boolean =>
  (c.operator === "=" || c.operator === "!=") &&
  target.options.length > 0 &&
  target.type !== "open-choice" &&
  !target.options.some((o) => conditionMet({ ...c, operator: "=" }, [o.value]));
function reaches(from: string, to: string, targets: ReadonlyMap<string, readonly string[]>): boolean {
  const seen = new Set<string>();
  const next = [from];
  for (let id = next.pop(); id !== undefined; id = next.pop()) {
    if (id === to) return true;
    if (seen.has(id)) continue;
    seen.add(id);
    next.push(...(targets.get(id) ?? []));
  }
  return false;
}

function checkPaths(items: readonly Item[], paths: Paths, add: Add): void {
  const dead = new Set<string>();
  for (const item of items) {
    const shown = paths.reachable(item);
    if (shown === undefined)
      add(
        "warning",
        "too-many-ways",
        `${short(item.text)} depends on so many answers that not all of them could be tried.`,
        item,
      );
    if (shown === false) {
      dead.add(item.linkId);
      if (item.type !== "display" && item.required)
        add("error", "required-never-shown", `${short(item.text)} is required, but no answers can ever show it.`, item);
      else add("error", "never-shown", `No answers can ever show ${short(item.text)}.`, item);
      continue;
    }
    if (item.shownWhen && item.shownWhen.conditions.length > 0 && paths.canHide(item) === false)
      add("warning", "always-shown", `${short(item.text)} is always shown: its condition cannot fail.`, item);
    if (isQuestion(item) && item.options.some((o) => o.shownWhen)) {
      for (const option of item.options)
        if (paths.offers(item, option) === false)
          add(
            "error",
            "option-never-shown",
            `No answers can ever offer “${textOf(option.value)}” of ${short(item.text)}.`,
            item,
          );
      if (item.required && item.type !== "open-choice" && paths.runsDry(item))
        add(
          "error",
          "no-option-left",
          `${short(item.text)} has to be answered, but for some answers none of its options is left.`,
          item,
        );
    }
  }
}

function checkScore(scored: Question, items: readonly Item[], range: ScoreRange | undefined, add: Add): void {
  const rule = scored.score!;
  if (rule.items.length === 0) {
    add("error", "score-empty", `${short(scored.text)} counts no questions.`, scored);
    return;
  }
  for (const id of rule.items) {
    const counted = items.find((i) => i.linkId === id);
    if (!counted || !isQuestion(counted))
      add("error", "score-not-numeric", `${short(scored.text)} counts a question that is not there any more.`, scored);
    else if (!numbersOf(counted))
      add(
        "error",
        "score-not-numeric",
        `${short(scored.text)} counts ${short(counted.text)}, whose answers have no numbers.`,
        scored,
      );
    else if (
      counted.options.some((o) => o.ordinal === undefined && o.value.type !== "integer" && o.value.type !== "decimal")
    )
      add(
        "error",
        "score-not-numeric",
        `${short(scored.text)} counts ${short(counted.text)}, but not each of its options has a number.`,
        scored,
      );
  }
  if (!range || rule.bands.length === 0) return;
  const bands = [...rule.bands].sort((a, b) => a.low - b.low);
  bands.forEach((band, index) => {
    if (band.high < band.low) add("error", "band-gap", `The band ${short(band.label)} ends before it begins.`, scored);
    const next = bands[index + 1];
    if (next && next.low <= band.high)
      add(
        "error",
        "band-overlap",
        `The bands ${short(band.label)} and ${short(next.label)} both hold ${next.low}.`,
        scored,
      );
  });
  const holds = (v: number): boolean => bands.some((b) => v >= b.low && v <= b.high);
  // Where the numbers lie on no grid, only the ends and the seams between bands can be looked at.
  const uncovered = range.values
    ? range.values.filter((v) => !holds(v))
    : [
        range.low,
        range.high,
        ...bands.slice(0, -1).flatMap((b, i) => (bands[i + 1]!.low > b.high ? [(b.high + bands[i + 1]!.low) / 2] : [])),
      ].filter((v) => v >= range.low && v <= range.high && !holds(v));
  if (uncovered.length > 0)
    add(
      "error",
      "band-gap",
      `${short(scored.text)} can be ${uncovered
        .slice(0, 3)
        .map((n) => Number(n.toFixed(2)))
        .join(", ")}${uncovered.length > 3 ? " and more" : ""}, which no band holds.`,
      scored,
    );
}

const sensitiveSections: ReadonlySet<string> = new Set(["health", "life"]);
const wayOut = /prefer not|rather not|don.t want to say|not say/i;

function checkUse(questionnaire: Questionnaire, items: readonly Item[], fields: readonly ChartField[], add: Add): void {
  const scored = new Set(items.flatMap((i) => (isQuestion(i) && i.score ? i.score.items : [])));
  const conditions = new Set(items.flatMap((i) => (i.shownWhen?.conditions ?? []).map((c) => c.question)));
  const rowsGo = new Set(items.flatMap((i) => (isGroup(i) && i.posting ? i.items.map((c) => c.linkId) : [])));
  // The words of a published measure are not for anybody here to make easier.
  const published = questionnaire.kind === "measure" && questionnaire.copyright !== undefined;
  const languages = published ? [] : [sourceLanguage(questionnaire), ...languagesOf(questionnaire)];
  for (const item of items) {
    if (isQuestion(item) && !item.readOnly && !item.score) {
      if (
        questionnaire.kind === "intake" &&
        !item.posting &&
        !item.alert &&
        !scored.has(item.linkId) &&
        !rowsGo.has(item.linkId) &&
        !conditions.has(item.linkId)
      )
        add(
          "warning",
          "goes-nowhere",
          `The answer to ${short(item.text)} goes nowhere: no chart field, score or alert uses it. It is still read in Returns.`,
          item,
        );
      const field = item.posting && fieldByKey(item.posting.field, fields);
      if (
        item.required &&
        item.options.length > 0 &&
        field &&
        sensitiveSections.has(field.section) &&
        !item.options.some((o) => {
          const labelOf = () => {
            if (o.value.type === "coding") return o.value.value.display ?? "";
            if (o.value.type === "string") return o.value.value;
            return "";
          };
          return wayOut.test(labelOf());
        })
      )
        add("warning", "no-way-out", `${short(item.text)} has to be answered and offers no “prefer not to say”.`, item);
    }
    for (const [index, language] of languages.entries()) {
      const text = index === 0 ? item.text : questionnaire.translations?.[language]?.[`text:${item.linkId}`]?.text;
      // A grade needs a few words to stand on (common practice): a two-word label says nothing about how hard it is to read.
      const reading = text !== undefined && text.split(/\s+/).length >= 8 ? readingOf(text, language) : undefined;
      if (reading?.hard)
        add(
          "warning",
          "hard-to-read",
          `${index === 0 ? "" : `${languageName(language)}: `}${short(text!)} ${reading.formula === "Flesch-Kincaid" ? `reads like grade ${reading.value.toFixed(1)}` : `has a reading ease of ${reading.value.toFixed(0)}, below 80`} (${reading.formula}). Shorter words and sentences help.`,
          item,
        );
    }
  }
}

/** One warning a language, at its first text that wants translating. */
function checkTranslations(questionnaire: Questionnaire, add: Add): void {
  for (const language of languagesOf(questionnaire)) {
    const wanting = textsOf(questionnaire)
      .map((text) => ({ text, state: translationState(text, questionnaire.translations?.[language]?.[text.place]) }))
      .filter((t) => t.state !== "done");
    const [missing, old] = (["missing", "out-of-date"] as const).map(
      (state) => wanting.filter((t) => t.state === state).length,
    ) as [number, number];
    if (wanting.length === 0) continue;
    const first = wanting[0]!.text.linkId;
    const said = [
      ...(missing > 0
        ? [
            `${missing === 1 ? "one text is" : `${missing} texts are`} not translated, and will be shown in ${languageName(sourceLanguage(questionnaire))}`,
          ]
        : []),
      ...(old > 0
        ? [`${old === 1 ? "one translation is" : `${old} translations are`} of words that have changed since`]
        : []),
    ];
    add(
      "warning",
      "untranslated",
      `${languageName(language)}: ${said.join("; ")}.`,
      first === undefined ? undefined : allItems(questionnaire).find((i) => i.linkId === first),
    );
  }
}
