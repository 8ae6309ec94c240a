import { newLine, type Item, type LineKind } from "../questionnaire";
import type { ChartField } from "./fields";

const kinds: Readonly<Record<Exclude<ChartField["kind"], "rows">, LineKind>> = {
  text: "short-text",
  "long-text": "long-text",
  date: "date",
  email: "email",
  phone: "phone",
  "yes-no": "yes-no",
  number: "decimal",
};

/**
 * A line that asks for what a chart field holds and puts the answer there; for a list, a repeating group with its
 * columns.
 */
export function chartLine(field: ChartField, newKey: () => string): Item {
  const key = newKey();
  const posting = { field: field.key, rule: "ask" as const };
  if (field.kind !== "rows") return { ...newLine(kinds[field.kind], key), text: field.label, posting } as Item;
  const columns = field.columns.map(
    (c): Item =>
      ({
        ...newLine("short-text", newKey()),
        text: c.label,
        required: c.key === field.matchOn,
        posting: { field: c.key, rule: "ask" },
      }) as Item,
  );
  return { ...newLine("repeating", key), text: field.label, posting, items: columns } as Item;
}
