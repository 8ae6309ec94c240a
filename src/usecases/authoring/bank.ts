import { object, string } from "yup";
import {
  allItems,
  isQuestion,
  isSignaturePlace,
  questionsByKey,
  shownWhenWords,
  textOf,
  type Question,
} from "../../core/questionnaire";
import { signaturePlaces } from "../../core/signing";
import { ok, type Result } from "../../core/shared";
import type { BlankLine, BlankPaper } from "../../adapters/blank-paper";
import { currentOf } from "./current";
import { command, idInput, libraryRight, query, type CommonError, letterhead } from "../kit";

export interface BankLine {
  /** The question with its options, codes and posting line; its key and its conditions stay where it is from. */
  readonly question: Question;
  readonly from: string;
}
const mostOffered = 6;
const simplified = (text: string): string =>
  text
    .toLocaleLowerCase()
    .normalize("NFKD")
    .replace(/[^\p{L}\p{N}\s]/gu, "");

/** Questions already asked elsewhere that hold all of these words, the closest first. What is taken is a copy. */
export const questionBank = query({
  name: "question-bank",
  access: "library.read",
  input: object({ words: string().max(300).required(), except: idInput<"Questionnaire">() }),
  async run(ctx, { words, except }): Promise<Result<BankLine[], CommonError>> {
    const wanted = simplified(words)
      .split(/\s+/)
      .filter((w) => w.length > 1);
    if (wanted.length === 0) return ok([]);
    const found = new Map<string, BankLine>();
    for (const row of await ctx.repo.questionnaires.all(ctx.practice.id, ctx.actor.id)) {
      if (row.id === except || libraryRight(ctx.actor, row) === "none") continue;
      const now = await currentOf(ctx, row.id);
      for (const item of now.ok ? allItems(now.value.questionnaire) : []) {
        if (!isQuestion(item) || item.score || !wanted.every((w) => simplified(item.text).includes(w))) continue;
        const { shownWhen: _, ...question } = item;
        const key = simplified(item.text);
        if (!found.has(key))
          found.set(key, {
            question: { ...question, items: [], options: question.options.map(({ shownWhen: _rule, ...o }) => o) },
            from: row.title,
          });
      }
    }
    return ok(
      [...found.values()].sort((a, b) => a.question.text.length - b.question.text.length).slice(0, mostOffered),
    );
  },
});

/** An empty questionnaire on paper. */
export const blankPaper = command({
  name: "blank-paper",
  access: "library.read",
  input: object({ id: idInput<"Questionnaire">() }),
  async run(ctx, { id }): Promise<Result<BlankPaper, CommonError>> {
    const now = await currentOf(ctx, id);
    if (!now.ok) return now;
    const questionnaire = now.value.questionnaire;
    ctx.journal("questionnaire.print", `questionnaire:${id}`);
    const byKey = questionsByKey(questionnaire);
    const lines = allItems(questionnaire).flatMap((item): BlankLine[] => {
      const when = shownWhenWords(item, byKey);
      const base = { text: item.text, help: undefined, only: when && `Only when ${when}:`, options: [], rules: 0 };
      if (isSignaturePlace(item)) return [{ ...base, kind: "question", help: "Signature", rules: 1 }];
      if (item.type === "display") return [{ ...base, kind: "text" }];
      if (item.type === "group") return [{ ...base, kind: "section" }];
      if (item.score || item.readOnly) return [];
      const stops =
        item.control === "slider" &&
        typeof item.minValue === "number" &&
        typeof item.maxValue === "number" &&
        item.maxValue - item.minValue <= 20
          ? Array.from({ length: item.maxValue - item.minValue + 1 }, (_, i) => String(Number(item.minValue) + i))
          : [];
      const options =
        item.type === "boolean"
          ? ["Yes", "No"]
          : [
              ...item.options.map(
                (o) => `${textOf(o.value)}${o.shownWhen ? ` (only when ${shownWhenWords(o, byKey)})` : ""}`,
              ),
              ...stops,
            ];
      const ruledLines = () => {
        if (item.type === "text") return 4;
        if (options.length === 0 || item.type === "open-choice") return 1;
        return 0;
      };
      return [
        {
          ...base,
          kind: "question",
          text: `${item.prefix ? `${item.prefix}. ` : ""}${item.text}`,
          help: item.terms ?? item.help,
          options,
          rules: ruledLines(),
        },
      ];
    });
    return ok({
      ...(await letterhead(ctx)),
      title: questionnaire.title,
      version: questionnaire.version,
      signed: signaturePlaces(questionnaire)[0] === "",
      words: { name: "Name", date: "Date", signature: "Signature" },
      lines,
    });
  },
});
