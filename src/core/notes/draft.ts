import {
  isGroup,
  isQuestion,
  linkIdOf,
  place,
  plainWords,
  textOf,
  type Answers,
  type AnswerWords,
  type Placed,
  type Questionnaire,
  type QuestionnaireKind,
} from "../questionnaire";
import { scoresOf, scoreText } from "../scoring";
import { linesOf, plainText, type Brought, type MeasureFact, type NoteContent, type Quote } from "./content";
import { paragraphs, wordsOf, type NoteBlock, type PlainBlock, type TakeHomeDocument } from "./document";
import { mainLanguage } from "../shared";
import type { LayoutSection, NoteLayout } from "./layout";
import { resolve, type NoteValues } from "./placeholders";

/** One question of a return with what was answered, as it can be quoted. */
export interface QuotedAnswer {
  readonly kind: "quoted";
  readonly partId: string;
  readonly key: string;
  readonly questionnaire: string;
  readonly section: string;
  readonly question: string;
  /** Empty when the question was left unanswered. */
  readonly answer: string;
  /** Files among the answers, by the names they have in `answer`. */
  readonly files?: readonly { readonly id: string; readonly title: string }[];
}
export interface ReturnedPart {
  readonly partId: string;
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
}

/** Every shown question of a return as a line that can be quoted, in reading order. */
export function quotable(part: ReturnedPart, words: AnswerWords = plainWords): QuotedAnswer[] {
  const { questionnaire, answers, partId } = part;
  const scores = new Map(scoresOf(questionnaire, answers).map((s) => [s.linkId, s]));
  const out: QuotedAnswer[] = [];
  const visit = (placed: Placed, section: string): void => {
    if (!placed.shown) return;
    const { item, key } = placed;
    if (isQuestion(item)) {
      const score = scores.get(item.linkId);
      const answerOf = () => {
        if (item.score) {
          return score ? scoreText(score) : "";
        }
        return (answers.values[key] ?? []).map((v) => textOf(v, words)).join(", ");
      };
      const answer = answerOf();
      const files = (answers.values[key] ?? []).flatMap((v) =>
        v.type === "attachment" ? [{ id: v.value.id, title: v.value.title }] : [],
      );
      out.push({
        kind: "quoted",
        partId,
        key,
        questionnaire: questionnaire.title,
        section,
        question: item.text,
        answer,
        ...(files.length > 0 ? { files } : {}),
      });
    }
    const inner = isGroup(item) && item.text !== "" ? item.text : section;
    placed.children.forEach((child) => visit(child, inner));
  };
  place(questionnaire, answers).forEach((p) => visit(p, questionnaire.title));
  return out;
}

/** A returned questionnaire that a note is begun with. */
export interface DraftSource {
  readonly packetId: string;
  readonly partId: string;
  readonly kind: QuestionnaireKind;
  readonly title: string;
  /** Whose words they are. */
  readonly by: string;
  readonly at: Quote["at"];
  readonly uncharted: boolean;
  readonly lines: readonly QuotedAnswer[];
  /** Sections of the chart that its questions are charted in, by linkId. */
  readonly charted: Readonly<Record<string, string>>;
  /** Sections of the layout that this practitioner had them in last time, by linkId; empty: beside the page. */
  readonly habit: Readonly<Record<string, string>>;
}
export interface DraftFacts {
  readonly sources: readonly DraftSource[];
  /** Values on file, by the key of their chart field. */
  readonly chart: Readonly<Record<string, Quote>>;
  readonly measures: Readonly<Record<string, MeasureFact>>;
  readonly values: Partial<NoteValues>;
  /** What the client reads. */
  readonly language: string;
  /** As the client reads them. */
  readonly takeHomeValues: Partial<NoteValues>;
}
export const quoteKey = ({ partId, key }: Pick<QuotedAnswer, "partId" | "key">): string => `${partId} ${key}`;
export const chartKey = (field: string): string => `chart ${field}`;

const asQuote = ({ by, at, packetId }: DraftSource, line: QuotedAnswer): Quote => ({
  kind: "answer",
  question: line.question,
  answer: line.answer,
  by,
  at,
  source: line.questionnaire,
  section: line.section,
  packetId,
  partId: line.partId,
  key: line.key,
  ...(line.files ? { files: line.files } : {}),
});
const tokens = (text: string): readonly string[] =>
  text
    .normalize("NFKC")
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word.length > 3);
/**
 * Where an answer is quoted: where this practitioner had it last time, else where it is charted, else under a heading of
 * the same words, else where what belongs nowhere goes. Undefined: beside the page, as agreements and the single
 * questions of a measure always are.
 */
function sectionFor(
  { sections }: NoteLayout,
  { charted, habit, kind }: DraftSource,
  line: QuotedAnswer,
): LayoutSection | undefined {
  const linkId = linkIdOf(line.key);
  const before = habit[linkId];
  if (before !== undefined) return sections.find(({ id }) => id === before);
  if (kind === "consent" || kind === "measure") return undefined;
  const chart = charted[linkId];
  const words = tokens(line.section);
  return (
    sections.find(({ takes }) => chart !== undefined && takes?.includes(chart)) ??
    sections.find(({ heading }) => tokens(heading).some((word) => words.includes(word))) ??
    sections.find(({ rest }) => rest && !(chart !== undefined && known.includes(chart)))
  );
}
/** Sections of the chart that say who somebody is and how they are reached: no note is about that. */
const known: readonly string[] = ["who", "contact", "cover"];

/**
 * A note laid out, and nothing left to choose: what was answered is quoted in its section, what was left unanswered
 * stands as a question to complete, values on file and scores stand where the layout asks for them.
 */
export function draftNote(layout: NoteLayout, facts: DraftFacts): NoteContent {
  const { sources, chart, measures, values } = facts;
  const quotes: Record<string, Quote> = {};
  const laid = new Map<string, NoteBlock[]>();
  const brought = new Map<string, Brought>();
  for (const source of sources)
    for (const line of source.lines) {
      const section = sectionFor(layout, source, line);
      if (line.answer === "" && !section) continue;
      const quote = quoteKey(line);
      quotes[quote] = asQuote(source, line);
      const before = brought.get(source.packetId);
      brought.set(source.packetId, {
        packetId: source.packetId,
        titles: [...new Set([...(before?.titles ?? []), source.title])],
        returnedAt: source.at,
        uncharted: source.uncharted,
        answers: (before?.answers ?? 0) + (section && line.answer !== "" ? 1 : 0),
      });
      if (!section) continue;
      const block: NoteBlock =
        line.answer === ""
          ? { type: "openPrompt", attrs: { quote } }
          : { type: "quoted", attrs: { quote, remark: "" } };
      laid.set(section.id, [...(laid.get(section.id) ?? []), block]);
    }
  for (const [field, quote] of Object.entries(chart)) quotes[chartKey(field)] = quote;
  const plotted = layout.sections.find((section) => section.measures)?.id;
  const body = layout.sections.flatMap((section): NoteBlock[] => [
    heading(section.heading, section.id, section.prompt),
    ...(section.fields ?? []).flatMap((field): NoteBlock[] =>
      chart[field] ? [{ type: "quoted", attrs: { quote: chartKey(field), remark: "" } }] : [],
    ),
    ...(section.id === plotted
      ? Object.keys(measures).map((measure): NoteBlock => ({ type: "measure", attrs: { measure } }))
      : []),
    ...(laid.get(section.id) ?? []),
    ...own(section.text, values),
  ]);
  const takeHome: TakeHomeDocument = {
    type: "doc",
    content: layout.takeHome.flatMap((section) => [
      heading(section.said?.[mainLanguage(facts.language)] ?? section.heading, null, section.prompt),
      ...own(section.text, facts.takeHomeValues),
    ]),
  };
  return {
    body: { type: "doc", content: body },
    takeHome,
    quotes,
    measures,
    brought: [...brought.values()],
    standing: plainText(linesOf(takeHome)),
  };
}
/** The answers of returns, to lie beside the page of a note that is written already. */
export function besidePage(sources: readonly DraftSource[]): Pick<NoteContent, "quotes" | "brought"> {
  const { quotes, brought } = draftNote(
    { id: "", name: "", sections: [], takeHome: [] },
    { sources, chart: {}, measures: {}, values: {}, language: "", takeHomeValues: {} },
  );
  return { quotes, brought };
}
/**
 * A note laid out otherwise: what somebody wrote goes along. Answers that were remarked on or said in other words stand
 * so where they are laid now; paragraphs stand under the section of the same name, else at the end under their own
 * heading; the take-home stays as it was written.
 */
export function laidOutAnew(before: NoteContent, drafted: NoteContent): NoteContent {
  const touched = new Map(
    before.body.content.flatMap((block) =>
      "attrs" in block && "quote" in block.attrs && isOwn(block) ? [[block.attrs.quote, block]] : [],
    ),
  );
  const written = new Map<string, { readonly heading: NoteBlock; readonly blocks: NoteBlock[] }>();
  let under: NoteBlock = heading("", "", undefined);
  for (const block of before.body.content) {
    if (block.type === "heading") under = block;
    else if (isOwn(block) && !("attrs" in block)) {
      const name = under.type === "heading" ? (under.attrs.section ?? wordsOf(under.content)) : "";
      const there = written.get(name) ?? { heading: under, blocks: [] };
      there.blocks.push(block);
      written.set(name, there);
    }
  }
  const content = drafted.body.content.flatMap((block): NoteBlock[] => {
    if ("attrs" in block && "quote" in block.attrs) {
      const own = touched.get(block.attrs.quote);
      touched.delete(block.attrs.quote);
      return [own ?? block];
    }
    const own = block.type === "heading" ? written.get(block.attrs.section ?? "") : undefined;
    if (!own || block.type !== "heading") return [block];
    written.delete(block.attrs.section ?? "");
    return [block, ...own.blocks];
  });
  const left = [...written.values()].flatMap((own) => [
    ...(own.heading.type === "heading" && own.heading.content ? [own.heading] : []),
    ...own.blocks,
  ]);
  const isWritten = plainText(linesOf(before.takeHome)) !== (before.standing ?? "");
  return {
    ...drafted,
    body: { type: "doc", content: [...content, ...left, ...touched.values()] },
    takeHome: isWritten ? before.takeHome : drafted.takeHome,
    quotes: { ...before.quotes, ...drafted.quotes },
    measures: { ...before.measures, ...drafted.measures },
    brought: before.brought,
  };
}
/** Somebody wrote it: it is more than the draft put there. */
function isOwn(block: NoteBlock): boolean {
  switch (block.type) {
    case "heading":
    case "measure":
      return false;
    case "quoted":
      return block.attrs.remark !== "";
    case "paragraph":
    case "restated":
    case "openPrompt":
      return wordsOf(block.content).trim() !== "";
    default:
      return true;
  }
}
const heading = (text: string, section: string | null, prompt: string | undefined) => ({
  type: "heading" as const,
  attrs: { level: 2 as const, section, prompt: prompt ?? null },
  ...(text === "" ? {} : { content: [{ type: "text" as const, text }] }),
});
/** Standing text, or a blank line to write on. */
const own = (text: string | undefined, values: Partial<NoteValues>): PlainBlock[] => {
  const standing = text === undefined ? [] : paragraphs(resolve(text, values).trim());
  return standing.length > 0 ? standing : [{ type: "paragraph" }];
};

/** Under which section each quoted answer stands, by its key; empty for those beside the page. */
export function habitOf({ body, quotes }: Pick<NoteContent, "body" | "quotes">): Readonly<Record<string, string>> {
  const habit: Record<string, string> = Object.fromEntries(Object.keys(quotes).map((quote) => [quote, ""]));
  let section = "";
  for (const block of body.content) {
    if (block.type === "heading" && block.attrs.section !== null) section = block.attrs.section;
    else if ("attrs" in block && "quote" in block.attrs) habit[block.attrs.quote] = section;
  }
  return habit;
}
