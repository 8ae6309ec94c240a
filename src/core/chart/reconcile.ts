import { assertNever, fail, ok, type Result } from "../shared";
import type { EntryChange, EntrySource, RowValue } from "./entries";
import { isNarrative, type ChartField } from "./fields";
import { rowsOn, valueOn, type Chart, type Dated } from "./fold";
import type { Incoming } from "./posting-plan";

/** `prefer`: the legal name stays, and what came in is what they like to be called. */
export const decisions = ["keep", "take", "both", "edit", "prefer"] as const;
export type Choice = (typeof decisions)[number];

/** A field or row where on-file and incoming are laid side by side. */
export interface ReconcileLine {
  /**
   * Stable within one response: the answer's key, `file:field:row` for a row the client did not mention, or
   * `no:field:row` for what is on file where the client said there is none.
   */
  readonly id: string;
  readonly field: ChartField;
  readonly question: string;
  readonly shape: "value" | "row";
  readonly status: "same" | "new" | "differs" | "not-mentioned" | "denied";
  readonly onFile:
    { readonly value: string | RowValue; readonly row?: string; readonly dated: Dated<unknown> } | undefined;
  readonly incoming: string | RowValue | undefined;
  /** Choices that make sense here. `both` is offered where a field can hold two things. */
  readonly choices: readonly Choice[];
  /** Rows that are alike, not the same: how they were matched is for somebody to see. */
  readonly alike?: true;
  /** What is set before anybody decides; undefined where somebody must. */
  readonly suggested: Choice | undefined;
}

export interface Decision {
  readonly line: string;
  readonly choice: Choice;
  readonly edited?: string | RowValue | undefined;
}

/** What somebody decided about a return so far. */
export interface ReconcileDraft {
  readonly decisions: readonly Decision[];
  /** Fields that lines go to for this return alone, by the line's id. */
  readonly redirects: Readonly<Record<string, string>>;
}
/**
 * Whether what came in for one field can go to another: any value into text, else what is of the same kind and counted in
 * the same; and never by the way to what says who somebody is.
 */
export function mayRedirect(from: ChartField, to: ChartField): boolean {
  if (from.key === to.key || from.kind === "rows" || to.kind === "rows" || from.identity || to.identity) return false;
  return to.kind === "text" || to.kind === "long-text" || (to.kind === from.kind && to.unit === from.unit);
}

const norm = (text: string): string => text.normalize("NFKC").trim().replace(/\s+/g, " ").toLowerCase();
const sameRow = (a: RowValue, b: RowValue): boolean =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every((k) => norm(a[k] ?? "") === norm(b[k] ?? ""));

/**
 * Lines for everything that came in, in the questionnaire's order; then, per list, the rows on file it does not
 * mention.
 */
export function reconcileLines(chart: Chart, incoming: readonly Incoming[]): ReconcileLine[] {
  return incoming.flatMap((inc): ReconcileLine[] => {
    switch (inc.kind) {
      case "value":
        return [valueLine(chart, inc, incoming)];
      case "rows":
        return rowLines(chart, inc);
      case "denied":
        return deniedLines(chart, inc);
      default:
        return assertNever(inc);
    }
  });
}

/** What is on file where the client said there is none: nothing is suggested, for either may be wrong. */
function deniedLines(chart: Chart, inc: Incoming & { kind: "denied" }): ReconcileLine[] {
  const { field, question } = inc;
  const base = { field, question, status: "denied" as const, incoming: inc.value, suggested: undefined };
  if (field.kind === "rows")
    return rowsOn(chart, field.key).map((file) => ({
      ...base,
      id: `no:${field.key}:${file.row}`,
      shape: "row" as const,
      onFile: { value: file.value.value, row: file.row, dated: file.value },
      choices: ["keep", "take"],
    }));
  const dated = chart.fields[field.key]?.current;
  if (!dated || dated.value.trim() === "" || norm(dated.value) === norm(inc.value)) return [];
  return [
    {
      ...base,
      id: `no:${field.key}:`,
      shape: "value" as const,
      onFile: { value: dated.value, dated },
      choices: ["keep", "take", "edit"],
    },
  ];
}

const preferred = "preferred-name";
function valueLine(chart: Chart, inc: Incoming & { kind: "value" }, all: readonly Incoming[]): ReconcileLine {
  const { field } = inc;
  const dated = chart.fields[field.key]?.current;
  const current = valueOn(chart, field.key);
  const base = {
    id: inc.key,
    field,
    question: inc.question,
    shape: "value" as const,
    incoming: inc.value,
    onFile: dated && current !== undefined ? { value: current, dated } : undefined,
  };
  if (current === undefined || current === "")
    return {
      ...base,
      status: "new",
      choices: ["keep", "take", "edit"],
      suggested: field.identity ? undefined : "take",
    };
  const says = isNarrative(field) && paragraphs(current).some((one) => norm(one) === norm(inc.value));
  if (norm(current) === norm(inc.value) || says)
    return { ...base, status: "same", choices: ["keep", "take"], suggested: "keep" };
  if (field.key === "first-name") {
    // What they like to be called, where they said so, is not written over.
    const isSaid = valueOn(chart, preferred) || all.some((other) => other.field.key === preferred);
    return {
      ...base,
      status: "differs",
      choices: isSaid ? ["keep", "take", "edit"] : ["keep", "prefer", "take", "edit"],
      suggested: "keep",
    };
  }
  const twoFit = !field.identity && (field.kind === "text" || field.kind === "long-text");
  return {
    ...base,
    status: "differs",
    choices: twoFit ? ["keep", "take", "both", "edit"] : ["keep", "take", "edit"],
    suggested: suggestion(inc, twoFit),
  };
}

/** Of a narrative, without the day each is led by. */
const paragraphs = (text: string): string[] =>
  text.split(/\n{2,}/).map((one) => one.replace(/^\d{4}-\d{2}-\d{2}: /, ""));

function suggestion(inc: Incoming, twoFit: boolean): Choice | undefined {
  if (inc.field.identity) return "keep";
  switch (inc.target.rule) {
    case "replace":
      return "take";
    case "add":
      return twoFit ? "both" : undefined;
    case "fill-if-blank":
      return "keep";
    case "ask":
      return undefined;
    default:
      return assertNever(inc.target.rule);
  }
}

function rowLines(chart: Chart, inc: Incoming & { kind: "rows" }): ReconcileLine[] {
  const { field } = inc;
  const onFile = rowsOn(chart, field.key);
  const matches = matchRows(field, onFile, inc.rows);
  const taken = new Set([...matches.values()].map((file) => file.row));
  const lines = inc.rows.map((row): ReconcileLine => {
    const match = matches.get(row.key);
    const base = { id: row.key, field, question: inc.question, shape: "row" as const, incoming: row.value };
    if (!match)
      return { ...base, onFile: undefined, status: "new", choices: ["keep", "take", "edit"], suggested: "take" };
    const alike = norm(match.value.value[field.matchOn] ?? "") !== norm(row.value[field.matchOn] ?? "");
    const file = { value: match.value.value, row: match.row, dated: match.value };
    return sameRow(match.value.value, row.value)
      ? { ...base, onFile: file, status: "same", choices: ["keep", "take"], suggested: "keep" }
      : {
          ...base,
          ...(alike ? { alike } : {}),
          onFile: file,
          status: "differs",
          choices: ["keep", "take", "both", "edit"],
          suggested: inc.target.rule === "replace" && !alike ? "take" : undefined,
        };
  });
  const left = onFile
    .filter((f) => !taken.has(f.row))
    .map((file): ReconcileLine => ({
      id: `file:${field.key}:${file.row}`,
      field,
      question: inc.question,
      shape: "row",
      status: "not-mentioned",
      incoming: undefined,
      onFile: { value: file.value.value, row: file.row, dated: file.value },
      choices: ["keep", "take"],
      suggested: "keep",
    }));
  return [...lines, ...left];
}

type FileRow = ReturnType<typeof rowsOn>[number];
/**
 * Which row on file each row that came in is about: of the same name first, so that nothing alike takes what is the
 * same; then the most alike of those that are left.
 */
function matchRows(
  { matchOn }: ChartField & { kind: "rows" },
  onFile: readonly FileRow[],
  rows: readonly { readonly key: string; readonly value: RowValue }[],
): ReadonlyMap<string, FileRow> {
  const matches = new Map<string, FileRow>();
  const free = new Set(onFile);
  const take = (key: string, file: FileRow | undefined): void => {
    if (!file) return;
    matches.set(key, file);
    free.delete(file);
  };
  const nameOn = (value: RowValue): string => value[matchOn] ?? "";
  for (const { key, value } of rows)
    if (norm(nameOn(value)) !== "")
      take(
        key,
        [...free].find((file) => norm(nameOn(file.value.value)) === norm(nameOn(value))),
      );
  for (const { key, value } of rows) {
    if (matches.has(key) || norm(nameOn(value)) === "") continue;
    const [best] = [...free]
      .map((file) => ({ file, score: likeName(nameOn(file.value.value), nameOn(value)) }))
      .filter(({ score }) => score >= leastLike)
      .sort((one, other) => other.score - one.score);
    take(key, best?.file);
  }
  return matches;
}
const leastLike = 0.8;
/**
 * How alike two names of a thing are, from 0 to 1: the share of letters that need not be changed, added or left out
 * (Levenshtein 1966), without what says how much; and alike where one is the other with more words ("Sertraline",
 * "sertraline tablets").
 */
export function likeName(one: string, other: string): number {
  const [first, second] = [bareName(one), bareName(other)] as [string, string];
  if (first === "" || second === "") return 0;
  if (first === second) return 1;
  const [short, long] = first.length < second.length ? [first, second] : [second, first];
  if (short.length >= 4 && long.split(" ").includes(short)) return 0.9;
  return 1 - distance(first, second) / long.length;
}
/** How many letters have to be changed, added or left out to come from one text to the other. */
function distance(one: string, other: string): number {
  let before = Array.from({ length: other.length + 1 }, (_, index) => index);
  for (let row = 1; row <= one.length; row++) {
    const now = [row];
    for (let column = 1; column <= other.length; column++) {
      const changed = before[column - 1]! + (one[row - 1] === other[column - 1] ? 0 : 1);
      now.push(Math.min(changed, before[column]! + 1, now[column - 1]! + 1));
    }
    before = now;
  }
  return before[other.length]!;
}
/** No name of a thing is longer; of what is, its beginning is compared, so that nobody's essay holds up the rest. */
const longestName = 120;
const bareName = (name: string): string =>
  norm(name.slice(0, 4 * longestName))
    .slice(0, longestName)
    .replaceAll(/\d+([.,]\d+)?\s*(mg|mcg|µg|g|ml|iu|%)?\b/g, " ")
    .replaceAll(/[^\p{L}\p{N}]+/gu, " ")
    .trim();

export type ReconcileError =
  | { readonly reason: "undecided"; readonly lines: readonly string[] }
  | { readonly reason: "choice-not-offered" | "unknown-line" | "empty-edit"; readonly lines: readonly string[] };

export interface EntryDraft {
  readonly change: EntryChange;
  readonly source: EntrySource;
}

/**
 * Turns decisions into entries. `keep` writes nothing (for a new line it means "leave it out"); `take` on a row the
 * client did not mention, or said there is none of, ends it. Every line needs a decision or a suggestion.
 * @param newRow makes an id for a new row (ids are arguments: the core has no randomness).
 */
export function decide(
  lines: readonly ReconcileLine[],
  given: readonly Decision[],
  from: { readonly partId: string; readonly questionnaire: string; readonly on?: string },
  newRow: () => string,
): Result<EntryDraft[], ReconcileError> {
  const byLine = new Map(given.map((d) => [d.line, d]));
  const unknown = given.filter((d) => !lines.some((l) => l.id === d.line)).map((d) => d.line);
  if (unknown.length > 0) return fail({ reason: "unknown-line", lines: unknown });
  const chosen = lines.map((line) => ({
    line,
    decision: byLine.get(line.id) ?? (line.suggested ? { line: line.id, choice: line.suggested } : undefined),
  }));
  const undecided = chosen.filter((c) => c.decision === undefined).map((c) => c.line.id);
  if (undecided.length > 0) return fail({ reason: "undecided", lines: undecided });
  const wrong = chosen.filter((c) => !c.line.choices.includes(c.decision!.choice)).map((c) => c.line.id);
  if (wrong.length > 0) return fail({ reason: "choice-not-offered", lines: wrong });
  const empty = chosen
    .filter((c) => c.decision!.choice === "edit" && isEmptyEdit(c.line, (c.decision as Decision).edited))
    .map((c) => c.line.id);
  if (empty.length > 0) return fail({ reason: "empty-edit", lines: empty });

  return ok(
    chosen.flatMap(({ line, decision }) => {
      const source: EntrySource = {
        kind: "answer",
        partId: from.partId,
        key: line.id,
        questionnaire: from.questionnaire,
      };
      return changesFor(line, decision!, newRow, from.on).map((change) => ({ change, source }));
    }),
  );
}

function isEmptyEdit(line: ReconcileLine, edited: string | RowValue | undefined): boolean {
  if (line.shape === "value") return typeof edited !== "string" || edited.trim() === "";
  return typeof edited !== "object" || Object.values(edited).every((v) => v.trim() === "");
}

const bothIn = ({ field, onFile, incoming }: ReconcileLine, on: string | undefined): string =>
  isNarrative(field)
    ? goneOn(onFile!.value as string, incoming as string, on)
    : `${onFile!.value as string}; ${incoming as string}`;
/** A narrative goes on with a paragraph of its own, led by its day where that is known. */
const goneOn = (before: string, added: string, on: string | undefined): string =>
  `${before}\n\n${on === undefined ? "" : `${on}: `}${added}`;

function changesFor(
  line: ReconcileLine,
  decision: Decision,
  newRow: () => string,
  on: string | undefined,
): EntryChange[] {
  const field = line.field.key;
  const row = line.onFile?.row;
  switch (decision.choice) {
    case "keep":
      return [];
    case "take":
      if (line.status === "same") return [];
      if (line.status === "not-mentioned" || (line.status === "denied" && line.shape === "row"))
        return row === undefined ? [] : [{ kind: "end-row", field, row }];
      return line.shape === "value"
        ? [{ kind: "set", field, value: line.incoming as string }]
        : [{ kind: "row", field, row: row ?? newRow(), value: line.incoming as RowValue }];
    case "prefer":
      return [{ kind: "set", field: preferred, value: line.incoming as string }];
    case "both":
      return line.shape === "value"
        ? [{ kind: "set", field, value: bothIn(line, on) }]
        : [{ kind: "row", field, row: newRow(), value: line.incoming as RowValue }];
    case "edit":
      return line.shape === "value"
        ? [{ kind: "set", field, value: (decision.edited as string).trim() }]
        : [{ kind: "row", field, row: row ?? newRow(), value: decision.edited as RowValue }];
    default:
      return assertNever(decision.choice);
  }
}
