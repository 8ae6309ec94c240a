import { allQuestions, numbersOf, type Question, type Questionnaire } from "../questionnaire";

/** Text as FHIRPath writes it. */
export const quoted = (text: string): string => `'${text.replace(/[\\']/g, (sign) => `\\${sign}`)}'`;
// A sign never stands alone before a number in a sum: FHIRPath reads it, people trip over it.
const plain = (n: number): string => (n < 0 ? `(${n})` : String(n));

/**
 * The score as FHIRPath over the response (SDC calculatedExpression). `weight()` reads an option's ordinal from the
 * questionnaire. Gives nothing where fewer items than the rule asks for were answered, as `scoresOf` does.
 */
export function scoreExpression(questionnaire: Questionnaire, scored: Question): string {
  const rule = scored.score!;
  const byId = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  const numbers = rule.items.flatMap((id) => {
    const item = byId.get(id);
    if (!item) return [];
    const asNumber = () => {
      if (item.options.length > 0) return ".weight()";
      if (item.type === "quantity") return ".value";
      return "";
    };
    const given = `%resource.descendants().where(linkId = ${quoted(id)}).answer.first().value${asNumber()}`;
    const range = rule.reversed?.includes(id) ? numbersOf(item) : undefined;
    const turned = range ? `.select(${plain(range.low + range.high)} - $this)` : "";
    const weight = rule.weights?.[id];
    return [`${given}${turned}${weight === undefined ? "" : `.select($this * ${plain(weight)})`}`];
  });
  const all =
    numbers.length === 0 ? "{}" : numbers.map((n) => `(${n})`).reduce((left, right) => `${left}.combine(${right})`);
  const combined = { count: "$n.count()", sum: "$n.sum()", mean: "$n.sum() / $n.count()" }[rule.method].replaceAll(
    "$n",
    `(${all})`,
  );
  const prorated =
    rule.proration === "person-mean" && rule.method === "sum"
      ? `iif((${all}).count() < ${numbers.length}, ((${all}).sum() / (${all}).count() * ${numbers.length} + 0.5).floor(), ${combined})`
      : combined;
  const times = rule.factor === undefined ? prorated : `(${prorated}) * ${plain(rule.factor)}`;
  return `iif((${all}).count() >= ${Math.max(1, rule.fewestAnswered)}, ${times}, {})`;
}
