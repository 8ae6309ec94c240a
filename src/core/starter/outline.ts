import {
  childrenOf,
  hasOptions,
  isQuestion,
  kindOf,
  markedKind,
  newLine,
  postingRules,
  readOptions,
  textOf,
  type AlertRule,
  type AnswerValue,
  type Comparison,
  type Condition,
  type Item,
  type LineKind,
  type PostingRule,
  type Question,
  type Questionnaire,
  type QuestionnaireKind,
} from "../questionnaire";

export interface OutlineHead {
  readonly name: string;
  readonly title: string;
  readonly description: string;
  readonly kind: QuestionnaireKind;
  readonly signed?: boolean;
}
const otherKinds: Readonly<Record<string, LineKind>> = {
  date: "date",
  tel: "phone",
  kg: "amount",
  cm: "amount",
  list: "drop-down",
  "or:": "one-or-other",
  terms: "terms",
  post: "postal-address",
  "1.5": "decimal",
};
const comparisons: readonly Comparison[] = ["!=", ">=", "<=", "=", ">", "<"];

/**
 * A questionnaire from an outline as it is typed in the Composer, one line a question:
 * `# Section`, `y/n {smokes} Do you smoke? * > tobacco ask`, and indented below a question `- option = 1`, `: help`,
 * `? smokes = yes` (shown when; several lines mean all), `t: terms` and `! Fever | Chills => Red flag` (what alarms:
 * options, yes, no, `>= 8` or `open`, and the words for Returns). `{key}` names a line, `*` makes it required.
 * @throws Error naming the line that does not read: an outline is ours, so that is a mistake of ours.
 */
export function readOutline(head: OutlineHead, text: string): Questionnaire {
  const url = `https://kindledger.example/fhir/Questionnaire/${head.name}`;
  const items: Item[] = [];
  const used = new Set<string>();
  let section: Item[] = items;
  let rows: Item[] | undefined;
  let last: { list: Item[]; options: string[] } | undefined;
  const change = (f: (item: Item) => Item): void => {
    if (last) last.list[last.list.length - 1] = f(last.list.at(-1)!);
  };

  for (const raw of text.split("\n")) {
    if (raw.trim() === "") continue;
    const indented = /^\s{2,}/.test(raw);
    const line = raw.trim();
    const fail = (why: string): never => {
      throw new Error(`${head.name}: ${why}: ${line}`);
    };
    if (indented && last && /^(- |: |\? |! |t: )/.test(line)) {
      if (line.startsWith("- ")) {
        last.options.push(line.slice(2));
        const options = last.options.join("\n");
        change((i) =>
          isQuestion(i) && hasOptions(kindOf(i))
            ? { ...i, options: readOptions(options, [], `${url}/options`) }
            : fail("options under something that has none"),
        );
      } else if (line.startsWith(": ")) change((i) => ({ ...i, help: line.slice(2) }) as Item);
      else if (line.startsWith("t: ")) change((i) => ({ ...i, terms: line.slice(3) }) as Item);
      else if (line.startsWith("! "))
        change((i) => ({ ...i, alert: readAlert(line.slice(2), i) ?? fail("an alert that does not read") }) as Item);
      else {
        const condition = readCondition(line.slice(2), flat(items)) ?? fail("a condition that does not read");
        change((i) => ({
          ...i,
          shownWhen: { behavior: "all", conditions: [...(i.shownWhen?.conditions ?? []), condition] },
        }));
      }
      continue;
    }
    const item = readLine(line, used, fail);
    if (item.type === "group" && !item.repeats) {
      section = [];
      rows = undefined;
      items.push({ ...item, items: section });
      last = { list: items, options: [] };
      continue;
    }
    if (item.type === "group") {
      rows = [];
      section.push({ ...item, items: rows });
      last = { list: section, options: [] };
      continue;
    }
    const list = indented && rows ? rows : section;
    if (!indented) rows = undefined;
    list.push(item);
    last = { list, options: [] };
  }
  return {
    url,
    version: "1",
    name: head.name,
    title: head.title,
    description: head.description,
    status: "active",
    language: "en",
    publisher: "Kind Ledger",
    kind: head.kind,
    codes: [],
    signed: head.signed ?? false,
    items,
  };
}

function readLine(line: string, used: Set<string>, fail: (why: string) => never): Item {
  const word = line.split(" ")[0]!;
  const marked =
    markedKind(line) ??
    (otherKinds[word]
      ? { kind: otherKinds[word], rest: line.slice(word.length + 1) }
      : { kind: "short-text" as const, rest: line });
  let words = marked.rest;
  const posting = / > ([\w-]+)(?: ([\w-]+))?$/.exec(words);
  if (posting) words = words.slice(0, posting.index);
  const rule = (posting?.[2] ?? "ask") as PostingRule;
  if (posting && !postingRules.includes(rule)) fail("an unknown posting rule");
  const required = words.endsWith(" *");
  if (required) words = words.slice(0, -2);
  const key = /^\{([\w-]+)\} /.exec(words);
  if (key) words = words.slice(key[0].length);
  const slug =
    key?.[1] ??
    (words
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 32)
      .replace(/-$/, "") ||
      "line");
  let linkId = slug;
  for (let index = 2; used.has(linkId); index++) linkId = `${slug}-${index}`;
  used.add(linkId);
  const item = newLine(marked.kind, linkId);
  const unit =
    word === "kg" || word === "cm" ? { unit: { system: "http://unitsofmeasure.org", code: word, display: word } } : {};
  return {
    ...item,
    text: words,
    ...(required ? { required } : {}),
    ...unit,
    ...(posting ? { posting: { field: posting[1]!, rule } } : {}),
  } as Item;
}

const flat = (items: readonly Item[]): Item[] => items.flatMap((i) => [i, ...flat(childrenOf(i))]);
function readCondition(text: string, before: readonly Item[]): Condition | undefined {
  const operator = comparisons.find((c) => text.includes(` ${c} `));
  if (!operator) return undefined;
  const [id, value] = text.split(` ${operator} `).map((t) => t.trim()) as [string, string];
  const target = before.find((i) => i.linkId === id) as Question | undefined;
  const answerOf = (): AnswerValue | undefined => {
    if (target?.type === "boolean") return { type: "boolean", value: value === "yes" };
    if (target?.type === "integer") return { type: "integer", value: Number(value) };
    return target?.options?.find((o) => o.value.type === "coding" && o.value.value.display === value)?.value;
  };
  const answer: AnswerValue | undefined = answerOf();
  return answer && { question: id, operator, answer };
}
function readAlert(text: string, item: Item): AlertRule | undefined {
  const [what = "", message = ""] = text.split(" => ");
  if (!isQuestion(item) || message === "") return undefined;
  if (what === "open") return { test: { kind: "unanswered" }, message };
  const from = /^>= (\d+)$/.exec(what);
  if (from) return { test: { kind: "numbers", low: Number(from[1]) }, message };
  const answers = what.split(" | ").map((word) => {
    if (item.type === "boolean") return { type: "boolean" as const, value: word === "yes" };
    return item.options.find((o) => textOf(o.value) === word)?.value;
  });
  return answers.every((a) => a !== undefined) ? { test: { kind: "answers", answers }, message } : undefined;
}
