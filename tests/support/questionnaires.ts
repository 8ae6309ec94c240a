import { readFileSync } from "node:fs";
import fc from "fast-check";
import { readQuestionnaireText } from "../../src/core/fhir";
import {
  keyOf,
  rowPrefix,
  type AnswerValue,
  type Answers,
  type Condition,
  type Item,
  type Question,
  type Questionnaire,
  type ScoreRule,
} from "../../src/core/questionnaire";

export function fromRepository(name: "adult-intake" | "consent-to-care" | "phq-9"): Questionnaire {
  const read = readQuestionnaireText(readFileSync(`demo/questionnaires/${name}.json`, "utf8"));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return read.value;
}

const coding = (i: number): AnswerValue => ({
  type: "coding",
  value: { system: "urn:test", code: `c${i}`, display: `Option ${i}` },
});
const base = { required: false, repeats: false, readOnly: false, codes: [], options: [], items: [] } as const;
export const question = (linkId: string, rest: Partial<Question> = {}): Question => ({
  ...base,
  linkId,
  text: `Question ${linkId}`,
  type: "string",
  ...rest,
});

/**
 * Random flat-to-nested questionnaires over yes/no, number and choice questions, with conditions on earlier questions.
 */
export const anyQuestionnaire: fc.Arbitrary<Questionnaire> = fc
  .array(
    fc.record({
      type: fc.constantFrom("boolean", "integer", "choice") as fc.Arbitrary<"boolean" | "integer" | "choice">,
      required: fc.boolean(),
      conditions: fc.array(
        fc.record({
          at: fc.nat(),
          operator: fc.constantFrom("exists", "=", "!=", ">", "<", ">=", "<=") as fc.Arbitrary<Condition["operator"]>,
          pick: fc.nat(3),
          yes: fc.boolean(),
        }),
        { maxLength: 2 },
      ),
      all: fc.boolean(),
      inGroup: fc.boolean(),
      ruled: fc.option(fc.nat(2), { freq: 3 }),
    }),
    { minLength: 1, maxLength: 8 },
  )
  // A score over all numbers before it, that those after it may ask about; none in two of three.
  .chain((specs) =>
    fc.tuple(
      fc.constant(specs),
      fc.option(fc.nat(specs.length), { freq: 1 }),
      fc.array(
        fc.record({
          asks: fc.boolean(),
          operator: fc.constantFrom("exists", "=", ">", "<=") as fc.Arbitrary<Condition["operator"]>,
          pick: fc.nat(5),
        }),
        { minLength: specs.length, maxLength: specs.length },
      ),
      fc.nat(2),
      fc.constantFrom<ScoreRule["method"]>("sum", "mean", "count"),
    ),
  )
  .map(([specs, scoreAt, onScore, fewestAnswered, method]) => {
    const types = specs.map((s) => s.type);
    const items: Item[] = [];
    let open: Item[] | undefined;
    specs.forEach((spec, index) => {
      const asks = onScore[index]!;
      const aboutScore: Condition[] =
        scoreAt !== null && index > scoreAt && asks.asks
          ? [
              {
                question: "score",
                operator: asks.operator,
                answer:
                  asks.operator === "exists"
                    ? { type: "boolean", value: asks.pick > 0 }
                    : { type: "decimal", value: asks.pick },
              },
            ]
          : [];
      const onEarlier =
        index === 0
          ? []
          : spec.conditions.map((condition): Condition => {
              const at = condition.at % index;
              // FHIR has no order on codes and yes/no, so those are compared for equality only.
              const operatorOf = () => {
                if (types[at] === "integer" || condition.operator === "exists") return condition.operator;
                if (condition.operator === "!=") return "!=";
                return "=";
              };
              const operator = operatorOf();
              const answerOf = (): AnswerValue => {
                if (operator === "exists" || types[at] === "boolean") return { type: "boolean", value: condition.yes };
                if (types[at] === "integer") return { type: "integer", value: condition.pick };
                return coding(condition.pick % 3);
              };
              const answer: AnswerValue = answerOf();
              return { question: `q${at}`, operator, answer };
            });
      // Those of one choice, of its options: an option that is left depends on what came before.
      const [ruled, conditions] =
        spec.type === "choice" && spec.ruled !== null && onEarlier.length > 0
          ? [onEarlier.slice(0, 1), [...onEarlier.slice(1), ...aboutScore]]
          : [[], [...onEarlier, ...aboutScore]];
      if (index === scoreAt) {
        const total = question("score", {
          type: "decimal",
          readOnly: true,
          score: {
            method,
            items: specs.slice(0, index).flatMap((s, n) => (s.type === "boolean" ? [] : [`q${n}`])),
            fewestAnswered,
            proration: "none",
            bands: [],
          },
        });
        (open ?? items).push(total);
      }
      const item = question(`q${index}`, {
        type: spec.type,
        required: spec.required,
        options:
          spec.type === "choice"
            ? [0, 1, 2].map((o) => ({
                value: coding(o),
                ordinal: o,
                ...(ruled.length > 0 && spec.ruled === o
                  ? { shownWhen: { behavior: "all" as const, conditions: ruled } }
                  : {}),
              }))
            : [],
        ...(spec.type === "integer" && scoreAt !== null ? { minValue: 0, maxValue: 3 } : {}),
        ...(conditions.length > 0 ? { shownWhen: { behavior: spec.all ? "all" : "any", conditions } } : {}),
      });
      if (spec.inGroup) {
        if (!open) {
          open = [];
          items.push({
            type: "group",
            linkId: `g${index}`,
            text: `Section ${index}`,
            codes: [],
            required: false,
            repeats: false,
            items: open,
          });
        }
        open.push(item);
      } else {
        open = undefined;
        items.push(item);
      }
    });
    return {
      url: "urn:test:random",
      version: "1",
      title: "Random",
      status: "active",
      kind: "intake",
      codes: [],
      signed: false,
      items,
    };
  });

/** Random answers to all questions, hidden ones too. */
export const answersFor = (questionnaire: Questionnaire): fc.Arbitrary<Answers> => {
  const questions: Question[] = [];
  const visit = (items: readonly Item[]): void =>
    items.forEach((i) => {
      if (i.type === "group") return visit(i.items);
      if (i.type === "display") return undefined;
      return questions.push(i);
    });
  visit(questionnaire.items);
  return fc
    .tuple(
      ...questions.map((item) => {
        const anyAnswer = () => {
          if (item.type === "boolean") return fc.boolean().map((value): AnswerValue => ({ type: "boolean", value }));
          if (item.type === "integer") return fc.nat(3).map((value): AnswerValue => ({ type: "integer", value }));
          return fc.nat(2).map(coding);
        };
        return fc.option(anyAnswer());
      }),
    )
    .map((given) => ({
      values: Object.fromEntries(given.flatMap((v, i) => (v === null ? [] : [[questions[i]!.linkId, [v]]]))),
      rows: {},
    }));
};
export const inRow = (group: string, row: string, linkId: string): string => keyOf(rowPrefix(group, row), linkId);
