import { assertNever, fail, ok, type Result } from "../shared";
import type { EntryChange, EntrySource, RowValue } from "./entries";
import type { ChartField } from "./fields";
import { rowsOn, valueOn, type Chart, type Dated } from "./fold";
import type { Incoming } from "./posting-plan";

export const decisions = ["keep", "take", "both", "edit"] as const;
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
  /** What is set before anybody decides; undefined where somebody must. */
  readonly suggested: Choice | undefined;
}

export interface Decision {
  readonly line: string;
  readonly choice: Choice;
  readonly edited?: string | RowValue | undefined;
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
        return [valueLine(chart, inc)];
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

function valueLine(chart: Chart, inc: Incoming & { kind: "value" }): ReconcileLine {
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
  if (norm(current) === norm(inc.value))
    return { ...base, status: "same", choices: ["keep", "take"], suggested: "keep" };
  const twoFit = !field.identity && (field.kind === "text" || field.kind === "long-text");
  return {
    ...base,
    status: "differs",
    choices: twoFit ? ["keep", "take", "both", "edit"] : ["keep", "take", "edit"],
    suggested: suggestion(inc, twoFit),
  };
}

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
  const taken = new Set<string>();
  const lines = inc.rows.map((row): ReconcileLine => {
    const name = norm(row.value[field.matchOn] ?? "");
    const match =
      name === ""
        ? undefined
        : onFile.find((f) => !taken.has(f.row) && norm(f.value.value[field.matchOn] ?? "") === name);
    const base = { id: row.key, field, question: inc.question, shape: "row" as const, incoming: row.value };
    if (!match)
      return { ...base, onFile: undefined, status: "new", choices: ["keep", "take", "edit"], suggested: "take" };
    taken.add(match.row);
    const file = { value: match.value.value, row: match.row, dated: match.value };
    return sameRow(match.value.value, row.value)
      ? { ...base, onFile: file, status: "same", choices: ["keep", "take"], suggested: "keep" }
      : {
          ...base,
          onFile: file,
          status: "differs",
          choices: ["keep", "take", "both", "edit"],
          suggested: inc.target.rule === "replace" ? "take" : undefined,
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
  from: { readonly partId: string; readonly questionnaire: string },
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
      return changesFor(line, decision!, newRow).map((change) => ({ change, source }));
    }),
  );
}

function isEmptyEdit(line: ReconcileLine, edited: string | RowValue | undefined): boolean {
  if (line.shape === "value") return typeof edited !== "string" || edited.trim() === "";
  return typeof edited !== "object" || Object.values(edited).every((v) => v.trim() === "");
}

function changesFor(line: ReconcileLine, decision: Decision, newRow: () => string): EntryChange[] {
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
    case "both":
      return line.shape === "value"
        ? [{ kind: "set", field, value: `${line.onFile!.value as string}; ${line.incoming as string}` }]
        : [{ kind: "row", field, row: newRow(), value: line.incoming as RowValue }];
    case "edit":
      return line.shape === "value"
        ? [{ kind: "set", field, value: (decision.edited as string).trim() }]
        : [{ kind: "row", field, row: row ?? newRow(), value: decision.edited as RowValue }];
    default:
      return assertNever(decision.choice);
  }
}
