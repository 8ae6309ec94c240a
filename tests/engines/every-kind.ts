import { writeQuestionnaire } from "../../src/core/fhir";
import {
  emptyQuestionnaire,
  hasOptions,
  lineKinds,
  newLine,
  readOptions,
  type Item,
  type LineKind,
} from "../../src/core/questionnaire";

const options = readOptions("First\nSecond\nThird", [], "urn:o");
const left: ReadonlySet<LineKind> = new Set(["section", "score", "signature", "file"]);
/** A line of a kind with everything it needs, to be answered. */
function line(kind: LineKind): Item {
  const made = { ...newLine(kind, `line-${kind}`), text: `A ${kind}` } as Item;
  if (made.type === "display") return made;
  if (made.type === "group")
    return {
      ...made,
      items: ["one", "two"].map(
        (name) =>
          ({
            ...newLine(kind === "grid" ? "one-of" : "short-text", `${kind}-${name}`),
            text: `${kind} ${name}`,
            ...(kind === "grid" ? { options } : {}),
          }) as Item,
      ),
    };
  return {
    ...made,
    required: true,
    ...(hasOptions(kind) ? { options } : {}),
    ...(kind === "terms" ? { terms: "These are the terms.\nAll of them." } : {}),
  };
}
const section = (linkId: string, items: readonly Item[]): Item =>
  ({ ...newLine("section", linkId), text: `Section ${linkId}`, items }) as Item;
const kinds = lineKinds.filter((kind) => !left.has(kind));
/** Every kind of question on two pages, and one that is shown by an answer before it. */
export const everyKind = JSON.stringify(
  writeQuestionnaire({
    ...emptyQuestionnaire("urn:test:every-kind", "Every kind", "intake", "x"),
    status: "active",
    signed: true,
    items: [
      section("a", kinds.slice(0, 12).map(line)),
      section("b", [
        ...kinds.slice(12).map(line),
        {
          ...newLine("long-text", "follow-up"),
          text: "A follow-up",
          required: true,
          shownWhen: {
            behavior: "all",
            conditions: [{ question: "line-yes-no", operator: "=", answer: { type: "boolean", value: true } }],
          },
        } as Item,
      ]),
    ],
  }),
);
