import { fieldByKey, postingProblems, type ChartField } from "../chart";
import {
  allItems,
  canAlarm,
  conditionMet,
  conditionsOf,
  isGroup,
  isQuestion,
  isSignaturePlace,
  languagesOf,
  notHonoured,
  numbersOf,
  sameValue,
  sourceLanguage,
  textOf,
  textsOf,
  translationState,
  type AnswerOption,
  type Condition,
  type Item,
  type Question,
  type Questionnaire,
  type SourceText,
} from "../questionnaire";
import { languageName, mainLanguage } from "../shared";
import { checkChange, type ChangeFinding } from "./change";
import { minutesFor } from "./minutes";
import { pathsOf, type Paths } from "./paths";
import { readingOf } from "./reading";
import { possibleScores, type ScoreRange } from "./score-range";
import { short } from "./short";
import { checkSigning, type SigningFinding } from "./signing";

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
  | "score-too-few"
  | "scale-step"
  | "band-unread"
  | "alert-nowhere"
  | "alert-no-answer"
  | "no-support"
  | "band-gap"
  | "band-overlap"
  | "consent-unsigned"
  | "unknown-field"
  | "option-never-shown"
  | "no-option-left"
  | "always-shown"
  | SigningFinding
  | ChangeFinding
  | "goes-nowhere"
  | "not-honoured"
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

/** What Proof knows of the practice besides its chart fields. What is not said is not warned about. */
export interface ProofPractice {
  /** A note layout quotes what was answered. */
  readonly quoted?: boolean;
  /** Languages in which the words for somebody in danger are written. */
  readonly supportIn?: readonly string[];
}
/** Checks a questionnaire before anybody gets it. Errors keep it from being put in use; warnings are for judging. */
export function proof(
  questionnaire: Questionnaire,
  fields: readonly ChartField[],
  practice: ProofPractice = {},
): ProofReport {
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
  checkSigning(questionnaire, paths, add);
  for (const item of items)
    if (isQuestion(item) && item.score)
      checkScore(item, items, scores.find((s) => s.linkId === item.linkId)?.range, paths, add);
  for (const item of items) if (isQuestion(item)) checkAlert(item, byId, add);
  for (const item of items) if (isQuestion(item)) checkStep(item, add);
  checkUse(questionnaire, items, fields, practice.quoted === true, add);
  for (const item of items)
    for (const words of notHonoured(item)) add("warning", "not-honoured", `${short(item.text)} ${words}.`, item);
  checkReading(questionnaire, add);
  if (practice.supportIn) checkSupport(questionnaire, practice.supportIn, add);
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

/** A score that can come out of some of its answers, by a rule that nobody published. */
function checkFewest(scored: Question, counted: readonly Question[], paths: Paths, add: Add): void {
  const { fewestAnswered, method, missingSource = "" } = scored.score!;
  const open = counted.filter((q) => !q.required || paths.canHide(q) !== false);
  const reached = Math.max(1, fewestAnswered, counted.length - open.length);
  if (method === "count" || missingSource.trim() !== "" || reached >= counted.length) return;
  add(
    "warning",
    "score-too-few",
    `${short(scored.text)} is given from ${reached} of its ${counted.length} answers on, and can look lower or higher than it is. Ask for all, or name where the rule is published.`,
    scored,
  );
}
function checkAlert(item: Question, byId: ReadonlyMap<string, Item>, add: Add): void {
  const test = item.alert?.test;
  if (!test) return;
  const nowhere = test.kind === "condition" && test.rule.conditions.some((c) => !byId.has(c.question));
  if (nowhere)
    add(
      "error",
      "alert-nowhere",
      `The alert of ${short(item.text)} asks about a question that is not there any more.`,
      item,
    );
  const never =
    (test.kind === "condition" && test.rule.conditions.length === 0) ||
    (test.kind === "answers" &&
      (test.answers.length === 0 ||
        (item.options.length > 0 && test.answers.some((a) => !item.options.some((o) => sameValue(o.value, a)))))) ||
    (test.kind === "numbers" && test.low === undefined && test.high === undefined);
  if (never)
    add("error", "alert-no-answer", `The alert of ${short(item.text)} names no answer that can be given.`, item);
}
function checkStep(item: Question, add: Add): void {
  const { step, minValue: low, maxValue: high } = item;
  if (step === undefined || typeof low !== "number" || typeof high !== "number" || step <= 0) return;
  if (high > low && (high - low) % step === 0) return;
  add("error", "scale-step", `${short(item.text)} goes from ${low} by ${step} and never stops at ${high}.`, item);
}
/** Where an answer can alarm, the client is shown the practice's words for somebody in danger, in their language. */
function checkSupport(questionnaire: Questionnaire, supportIn: readonly string[], add: Add): void {
  if (!canAlarm(questionnaire)) return;
  const has = (language: string): boolean => supportIn.some((l) => mainLanguage(l) === mainLanguage(language));
  const without = [sourceLanguage(questionnaire), ...languagesOf(questionnaire)].filter((l) => !has(l));
  if (without.length > 0)
    add(
      "warning",
      "no-support",
      `An answer here can alarm, and the words for somebody in danger are not written in ${without.map(languageName).join(", ")}. The office writes them under Clients’ pages.`,
    );
}

function checkScore(
  scored: Question,
  items: readonly Item[],
  range: ScoreRange | undefined,
  paths: Paths,
  add: Add,
): void {
  const rule = scored.score!;
  for (const line of rule.unread ?? [])
    add("error", "band-unread", `${short(scored.text)} has a band that does not read: ${short(line)}.`, scored);
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
  const counted = rule.items.flatMap((id) => items.find((i): i is Question => i.linkId === id && isQuestion(i)) ?? []);
  checkFewest(scored, counted, paths, add);
  if (rule.change) checkChange(scored, rule.change, range, add);
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

const sensitiveSections: ReadonlySet<string> = new Set(["mind", "health", "life", "development", "family", "food"]);
/**
 * By language, what people may not want to say to a form: sex, faith, violence, drugs and drink, wishing to die,
 * papers, money. Common practice.
 */
const sensitiveWords: Readonly<Record<string, RegExp>> = {
  en: /\b(?:sex|sexual\w*|gender|orientation|pregnan\w+|hiv|abus\w+|violen\w+|rape|assault\w*|trauma\w*|drugs?|alcohol|drink(?:ing)?|suicid\w+|self-harm|kill(?:ing)? yourself|religio\w+|faith|race|ethnic\w*|immigra\w+|income|debts?|prison|convict\w+)\b/i,
  es: /sexo|sexual|género|embaraz|vih|abus|violen|violaci|trauma|droga|alcohol|suicid|hacerte daño|religi|etni|inmigra|ingresos|deuda|cárcel/i,
  fr: /sexe|sexuel|genre|enceinte|grossesse|vih|abus|violen|viol\b|traumat|drogue|alcool|suicid|vous faire du mal|religi|ethni|immigr|revenu|dette|prison/i,
  ar: /جنس|حامل|الحمل|إيذاء|عنف|اعتداء|صدمة|مخدر|كحول|انتحار|دين|عرق|هجرة|دخل|ديون|سجن/,
};
const wayOut =
  /prefer not|rather not|don.t want to say|not say|prefiero no|no quiero decir|préfère ne pas|ne souhaite pas|أفضل عدم|لا أريد/i;
const optionWords = (option: AnswerOption): string =>
  option.value.type === "coding" || option.value.type === "string" ? textOf(option.value) : "";

function checkUse(
  questionnaire: Questionnaire,
  items: readonly Item[],
  fields: readonly ChartField[],
  quoted: boolean,
  add: Add,
): void {
  const scored = new Set(items.flatMap((i) => (isQuestion(i) && i.score ? i.score.items : [])));
  const conditions = new Set(items.flatMap((i) => (i.shownWhen?.conditions ?? []).map((c) => c.question)));
  const rowsGo = new Set(items.flatMap((i) => (isGroup(i) && i.posting ? i.items.map((c) => c.linkId) : [])));
  const sensitive = sensitiveWords[mainLanguage(sourceLanguage(questionnaire))];
  for (const item of items) {
    if (!isQuestion(item) || item.readOnly || item.score) continue;
    if (
      questionnaire.kind === "intake" &&
      !quoted &&
      !item.posting &&
      !item.alert &&
      !scored.has(item.linkId) &&
      !rowsGo.has(item.linkId) &&
      !conditions.has(item.linkId)
    )
      add(
        "warning",
        "goes-nowhere",
        `The answer to ${short(item.text)} goes nowhere: no chart field, score, alert or note uses it. It is still read in Returns.`,
        item,
      );
    const field = item.posting && fieldByKey(item.posting.field, fields);
    const byBinding = item.options.length > 0 && field !== undefined && sensitiveSections.has(field.section);
    const byWords = (item.options.length > 0 || item.type === "boolean") && sensitive?.test(item.text) === true;
    const agreed = item.terms !== undefined || questionnaire.kind === "consent" || isPublished(questionnaire);
    if (item.required && !agreed && (byBinding || byWords) && !item.options.some((o) => wayOut.test(optionWords(o))))
      add(
        "warning",
        "no-way-out",
        item.type === "boolean"
          ? `${short(item.text)} has to be answered with yes or no. Let it be left out, or ask it with a “prefer not to say”.`
          : `${short(item.text)} has to be answered and offers no “prefer not to say”.`,
        item,
      );
  }
}

/** The words of a published measure are not for anybody here to make easier or to add to. */
const isPublished = (questionnaire: Questionnaire): boolean =>
  questionnaire.kind === "measure" && questionnaire.copyright !== undefined;
const read: readonly SourceText["part"][] = ["text", "help", "terms"];
function checkReading(questionnaire: Questionnaire, add: Add): void {
  if (isPublished(questionnaire)) return;
  const byId = new Map(allItems(questionnaire).map((i) => [i.linkId, i]));
  const languages = [undefined, ...languagesOf(questionnaire)];
  for (const { place, part, source, linkId } of textsOf(questionnaire)) {
    if (linkId === undefined || !read.includes(part)) continue;
    for (const language of languages) {
      const text = language === undefined ? source : questionnaire.translations?.[language]?.[place]?.text;
      // A grade needs a few words to stand on (common practice): a two-word label says nothing about how hard it is
      // to read.
      if (text === undefined || text.split(/\s+/).length < 8) continue;
      const reading = readingOf(text, language ?? sourceLanguage(questionnaire));
      if (!reading?.hard) continue;
      const where = `${language === undefined ? "" : `${languageName(language)}: `}${part === "text" ? "" : `${partNames[part]} `}`;
      const found =
        reading.formula === "Flesch-Kincaid"
          ? `reads like grade ${reading.value.toFixed(1)}`
          : `has a reading ease of ${reading.value.toFixed(0)}, below 80`;
      add(
        "warning",
        "hard-to-read",
        `${where}${short(text)} ${found} (${reading.formula}). Shorter words and sentences help.`,
        byId.get(linkId),
      );
    }
  }
}
const partNames: Readonly<Partial<Record<SourceText["part"], string>>> = { help: "the help", terms: "the terms" };

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
