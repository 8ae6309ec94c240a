import type { AnswerValue, Coding } from "./answer-value";

/** Item kinds that hold an answer; the names are those of FHIR R4 `Questionnaire.item.type`. */
export const questionTypes = [
  "boolean",
  "decimal",
  "integer",
  "date",
  "time",
  "string",
  "text",
  "url",
  "choice",
  "open-choice",
  "quantity",
  "attachment",
] as const;
export type QuestionType = (typeof questionTypes)[number];

export const comparisons = ["exists", "=", "!=", ">", "<", ">=", "<="] as const;
export type Comparison = (typeof comparisons)[number];

/**
 * One line of "Shown when". The question may be a score, which answers with its number. With `exists`, `answer` is a
 * boolean; otherwise a value of the question's own type.
 */
export interface Condition {
  readonly question: string;
  readonly operator: Comparison;
  readonly answer: AnswerValue;
}
export interface ShownWhen {
  readonly behavior: "all" | "any";
  readonly conditions: readonly Condition[];
}

export interface AnswerOption {
  readonly value: AnswerValue;
  /** The number this option counts as in a score (FHIR ordinalValue). */
  readonly ordinal?: number;
  /** "None of these": choosing it clears the others (FHIR questionnaire-optionExclusive). */
  readonly exclusive?: boolean;
  /** Offered only then; an answer that is not offered any more does not count. */
  readonly shownWhen?: ShownWhen;
  /**
   * What a reader of another language sees in place of the value's own words; the value stays. Set by `translate`,
   * never stored.
   */
  readonly label?: string;
  readonly kept?: Readonly<Record<string, unknown>>;
}

/** Where an answer goes in the chart, and what happens to a value that is there already. */
export const postingRules = ["replace", "add", "fill-if-blank", "ask"] as const;
export type PostingRule = (typeof postingRules)[number];
export interface PostingTarget {
  readonly field: string;
  readonly rule: PostingRule;
}

/** A meaning for a stretch of a score, both ends included. */
export interface Band {
  readonly low: number;
  readonly high: number;
  readonly label: string;
  readonly source: string;
  /** Raises an alert with these words when the score falls into this band. */
  readonly alert?: string;
}
/** A number, and where it was published (or that it was computed from the practice's own answers). */
export interface Sourced {
  readonly value: number;
  readonly source: string;
}
/** How a group of people scored. */
export interface Norm {
  readonly mean: number;
  /** Standard deviation, above 0. */
  readonly sd: number;
  readonly source: string;
}
/** Of a change rule, the numbers that stand by themselves. */
export const changeNumbers = ["cutPoint", "reliableChange", "important"] as const;
export type ChangeNumber = "reliability" | "mean" | "sd" | (typeof changeNumbers)[number];
/** Whether a number can stand there in a change rule. */
export function isChangeNumber(of: ChangeNumber, value: number): boolean {
  if (!Number.isFinite(value)) return false;
  if (of === "reliability") return value >= 0 && value < 1;
  return of === "mean" || of === "cutPoint" || value > 0;
}
/** What is known of a score that tells whether a change of it is real, and whether it matters. */
export interface ChangeRule {
  readonly better: "lower" | "higher";
  /** 0 to 1: Cronbach's alpha, or the correlation of two measurements of the same people. */
  readonly reliability?: Sourced & { readonly kind: "alpha" | "test-retest" };
  /** People who seek help for it. */
  readonly clinical?: Norm;
  readonly general?: Norm;
  /** The first number that counts as clinical, on the way that is worse. */
  readonly cutPoint?: Sourced;
  /** The smallest reliable change, where it was published itself: it stands in for the computed one. */
  readonly reliableChange?: Sourced;
  /** The smallest change that matters to people: minimal clinically important difference. */
  readonly important?: Sourced;
}
export interface ScoreRule {
  readonly method: "sum" | "mean" | "count";
  readonly items: readonly string[];
  /** Items that count more or less than once, by linkId. */
  readonly weights?: Readonly<Record<string, number>>;
  /** Items that count from the other end: lowest plus highest possible number, minus the one given. */
  readonly reversed?: readonly string[];
  /** The combined number is multiplied by this at the end (WHO-5: 4). */
  readonly factor?: number;
  /** Fewest answered items for which a score is given at all. */
  readonly fewestAnswered: number;
  /** Whether missing items are filled by the mean of the person's own answered ones. */
  readonly proration: "none" | "person-mean";
  /** Where a rule that does with fewer than all items is published. */
  readonly missingSource?: string;
  readonly bands: readonly Band[];
  readonly change?: ChangeRule;
  /**
   * Lines of the bands that do not read yet, and a source typed before the first band: kept so that nothing typed is
   * lost.
   */
  readonly unread?: readonly string[];
  readonly bandsSource?: string;
}
/** What an answer has to be to alarm. */
export type AlertTest =
  /** Any one of these: options, yes, no. */
  | { readonly kind: "answers"; readonly answers: readonly AnswerValue[] }
  /** A number, or the number of an option, between these; both ends included, an end that is not there is open. */
  | { readonly kind: "numbers"; readonly low?: number; readonly high?: number }
  /** Asked, and left without an answer. */
  | { readonly kind: "unanswered" }
  /** Answers anywhere in the questionnaire; the question itself needs none. */
  | { readonly kind: "condition"; readonly rule: ShownWhen };
export interface AlertRule {
  readonly test: AlertTest;
  /** Said in Returns beside the answer. */
  readonly message: string;
}

interface ItemBase {
  readonly linkId: string;
  readonly text: string;
  readonly prefix?: string;
  readonly codes: readonly Coding[];
  readonly shownWhen?: ShownWhen;
  /** FHIR elements and extensions that Kind Ledger does not use, kept so that an export gives them back. */
  readonly kept?: Readonly<Record<string, unknown>>;
}
export interface Group extends ItemBase {
  readonly type: "group";
  readonly required: boolean;
  readonly repeats: boolean;
  readonly items: readonly Item[];
  readonly posting?: PostingTarget;
  /** `htable` (FHIR itemControl): a grid, whose questions are rows that share their options. */
  readonly control?: "htable";
}
export interface Display extends ItemBase {
  readonly type: "display";
  /** A place to sign: its text is what the signer agrees to (FHIR questionnaire-signatureRequired on an item). */
  readonly signature?: true;
  /** Who signs there; whoever fills it in, where it is not said. */
  readonly signer?: Signer;
  readonly signing?: SigningRule;
}
/** `guardian` is a parent or a guardian; `practitioner` whoever the answers are for; `named` anybody else, by name. */
export const signers = ["client", "guardian", "partner", "supervisor", "practitioner", "named"] as const;
export type Signer = (typeof signers)[number];
export const signatureWays = ["typed", "drawn", "picture", "ticked"] as const;
export type SignatureWay = (typeof signatureWays)[number];
/** More places than these are no agreement any more. */
export const mostSignaturePlaces = 8;
/** Where the name and the address of a signer come from: linkIds of two answers, or as they stand here. */
export type SignerSource =
  | { readonly kind: "answers"; readonly name: string; readonly email: string }
  | { readonly kind: "fixed"; readonly name: string; readonly email: string };
export interface SigningRule {
  /** What a named signer is: "Employer". */
  readonly title?: string;
  /** Where it is not said: who is on file, or whoever staff choose. */
  readonly from?: SignerSource;
  /** Whole years of the client at which this place is signed: from the first on, and below the second. */
  readonly ages?: { readonly from?: number; readonly below?: number };
  /** May be signed, and nothing waits for it. */
  readonly optional?: true;
  /** The linkId of the place that is signed before this one; the one above it, where it is not said. */
  readonly after?: string;
  /** How it may be signed; typed and drawn and by a picture, where it is not said. */
  readonly ways?: readonly SignatureWay[];
  /** Where it stands on the questionnaire's PDF as well. */
  readonly onSheet?: SheetBox;
}
/** A box on a page of a PDF, in points from the page's lower left corner as its content counts them. */
export interface SheetBox {
  /** From 1. */
  readonly page: number;
  readonly left: number;
  readonly bottom: number;
  readonly width: number;
  readonly height: number;
}
/** What holds for all signatures of a questionnaire. */
export interface SigningTerms {
  /** Signers need not wait for each other. */
  readonly freeOrder?: true;
  /** It counts only once the practitioner has recorded that it was talked over. */
  readonly talk?: true;
  /** For how many months it stands; until it is withdrawn, where it is not said. */
  readonly months?: number;
}
export interface Question extends ItemBase {
  readonly type: QuestionType;
  readonly required: boolean;
  readonly repeats: boolean;
  readonly readOnly: boolean;
  readonly help?: string;
  readonly options: readonly AnswerOption[];
  readonly maxLength?: number;
  readonly minLength?: number;
  readonly minValue?: number | string;
  readonly maxValue?: number | string;
  readonly maxDecimalPlaces?: number;
  readonly unit?: Coding;
  readonly entryFormat?: string;
  readonly pattern?: string;
  readonly keyboard?: "phone" | "email";
  /** Of a number on a scale: how far one stop is from the next, and the words at its two ends. */
  readonly step?: number;
  readonly ends?: readonly [string, string];
  /** Terms that have to be opened before this can be agreed to. */
  readonly terms?: string;
  readonly control?: string;
  readonly posting?: PostingTarget;
  readonly score?: ScoreRule;
  readonly alert?: AlertRule;
  /** Of a worksheet: the name of the field in its PDF that the answer is written into. */
  readonly sheetField?: string;
  /** Questions nested under this one (FHIR allows it); shown after it. */
  readonly items: readonly Item[];
}
export type Item = Group | Display | Question;

export const questionnaireKinds = ["intake", "consent", "measure", "worksheet"] as const;
export type QuestionnaireKind = (typeof questionnaireKinds)[number];

/** A text in another language, and the words it was made from: when those have changed since, it is out of date. */
export interface Translated {
  readonly text: string;
  readonly of: string;
}
/** By language (BCP 47 tag), then by place (see `textsOf`). */
export type Translations = Readonly<Record<string, Readonly<Record<string, Translated>>>>;

/** The PDF of a worksheet; `id` names it in the practice's store. */
export interface Sheet {
  readonly id: string;
  readonly title: string;
  /** In bytes. */
  readonly size: number;
  /** Base64 of the file's SHA-1, as FHIR's Attachment has it. */
  readonly hash: string;
  /** SHA-256 of the file in hex, which is signed with what is read; none in those from before it was kept. */
  readonly sha256?: string;
}

export interface Questionnaire {
  readonly url: string;
  readonly version: string;
  readonly name?: string;
  readonly title: string;
  readonly description?: string;
  readonly status: "draft" | "active" | "retired" | "unknown";
  readonly language?: string;
  readonly publisher?: string;
  readonly copyright?: string;
  readonly kind: QuestionnaireKind;
  readonly codes: readonly Coding[];
  /** Whether the client must sign before returning (FHIR questionnaire-signatureRequired). */
  readonly signed: boolean;
  readonly signing?: SigningTerms;
  readonly items: readonly Item[];
  readonly translations?: Translations;
  readonly sheet?: Sheet;
  readonly kept?: Readonly<Record<string, unknown>>;
}

export const isGroup = (item: Item): item is Group => item.type === "group";
export const isGrid = (item: Item): item is Group =>
  item.type === "group" && item.control === "htable" && !item.repeats;
/** A group that stands for a page of its own when it is at the top. */
export const isSection = (item: Item): item is Group =>
  item.type === "group" && !item.repeats && item.control === undefined;
export const isQuestion = (item: Item): item is Question => item.type !== "group" && item.type !== "display";
export const isSignaturePlace = (item: Item): boolean => item.type === "display" && item.signature === true;
export const childrenOf = (item: Item): readonly Item[] => (item.type === "display" ? [] : item.items);
