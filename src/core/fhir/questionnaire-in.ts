import { fail, ok, type Result } from "../shared";
import {
  allItems,
  childrenOf,
  conditionsOf,
  isDate,
  isSignaturePlace,
  signers,
  type Display,
  optionPlace,
  patternProblem,
  questionnaireKinds,
  questionTypes,
  sameValue,
  type AnswerOption,
  type Item,
  type Question,
  type Questionnaire,
  type QuestionnaireKind,
  type QuestionType,
  type Sheet,
} from "../questionnaire";
import { asRead } from "./elsewhere";
import { isObject, Reader, type ImportProblem, type JsonObject } from "./json";
import { readAlert, readEnds, readOptionRule, readPosting, readScore, readShownWhen } from "./rules-in";
import { signingIn, signingTermsIn } from "./signing";
import { TranslationsIn } from "./translations";
import { url } from "./urls";
import { codingFrom, valueFrom } from "./values-in";

/** Largest file taken, in characters. */
export const largestFile = 2_000_000;
/** The same for all versions of one together, with a worksheet's PDF. */
const largestHandOff = 15_000_000;
const deepest = 12;
const mostItems = 2_000;

const tooLarge = (limit: number): ImportProblem => ({
  path: "",
  problem: `The file is larger than ${limit / 1_000_000} MB. A questionnaire holds text only; remove pictures or attachments from it.`,
});
function parse(text: string, limit: number): Result<unknown, ImportProblem[]> {
  if (text.length > limit) return fail([tooLarge(limit)]);
  try {
    return ok(JSON.parse(text.replace(/^\uFEFF/, "")));
  } catch (error) {
    const where = error instanceof Error ? error.message : "";
    return fail([{ path: "", problem: `This is not JSON, so it was not read further. ${where}`.trim() }]);
  }
}

/** From the text of a file to a questionnaire, or to everything that is wrong with it and where. Never half of one. */
export function readQuestionnaireText(text: string): Result<Questionnaire, ImportProblem[]> {
  const json = parse(text, largestFile);
  return json.ok ? readQuestionnaire(json.value) : json;
}

/**
 * The versions of one questionnaire in a file, newest first: a Questionnaire alone is one; a Bundle (collection) holds
 * them all. @returns everything that is wrong and where, when any of them does not read.
 */
export function readHandOff(text: string): Result<[Questionnaire, ...Questionnaire[]], ImportProblem[]> {
  const read = parse(text, largestHandOff);
  if (!read.ok) return read;
  const json = read.value;
  if (!isObject(json) || json["resourceType"] !== "Bundle") {
    const alone =
      text.length - String(attachmentOf(json)?.["data"] ?? "").length > largestFile
        ? fail([tooLarge(largestFile)])
        : readQuestionnaire(json);
    return alone.ok ? ok([alone.value]) : alone;
  }
  const entries = Array.isArray(json["entry"]) ? (json["entry"] as unknown[]) : [];
  if (entries.length === 0 || entries.length > mostVersions)
    return fail([
      {
        path: "entry",
        problem: entries.length === 0 ? "The Bundle is empty." : `The Bundle has more than ${mostVersions} entries.`,
      },
    ]);
  const each = entries.map((e) => readQuestionnaire(isObject(e) ? e["resource"] : undefined));
  const problems = each.flatMap((r, i) =>
    r.ok ? [] : r.error.map((p) => ({ ...p, path: `entry[${i}].resource${p.path === "" ? "" : `.${p.path}`}` })),
  );
  const versions = each.flatMap((r) => (r.ok ? [r.value] : []));
  if (versions.some((v) => v.url !== versions[0]!.url))
    problems.push({
      path: "entry",
      problem: "The Bundle holds different questionnaires. One file is one questionnaire, in all its versions.",
    });
  return problems.length > 0 ? fail(problems) : ok(versions as [Questionnaire, ...Questionnaire[]]);
}
const mostVersions = 50;

/** Reads a FHIR R4 Questionnaire. Elements it does not use are kept for export. */
export function readQuestionnaire(json: unknown): Result<Questionnaire, ImportProblem[]> {
  const { questionnaire, problems } = read(json);
  return questionnaire && problems.length === 0 ? ok(questionnaire) : fail(problems);
}

/**
 * The same for one that is still being written: a question without words, options or a condition's target is let
 * through.
 */
export function readDraft(json: unknown): Result<Questionnaire, ImportProblem[]> {
  const { questionnaire, problems } = read(json, true);
  const wrong = problems.filter((p) => !p.unfinished);
  return questionnaire && wrong.length === 0 ? ok(questionnaire) : fail(wrong);
}

/**
 * @param draft it is ours and still written: without a title it has none, where a file goes by its name, id or address.
 */
function read(given: unknown, draft = false): { questionnaire?: Questionnaire; problems: ImportProblem[] } {
  const json = isObject(given) && !draft ? asRead(given) : given;
  if (!isObject(json))
    return { problems: [{ path: "", problem: "A FHIR resource is a JSON object; this is something else." }] };
  if (json["resourceType"] !== "Questionnaire")
    return {
      problems: [
        {
          path: "resourceType",
          problem: `This is a ${typeof json["resourceType"] === "string" ? json["resourceType"] : "file without a resourceType"}, not a Questionnaire.`,
        },
      ],
    };

  const problems: ImportProblem[] = [];
  const root = new Reader(json, "", problems);
  root.raw("resourceType");
  const title = root.text("title");
  if (!title?.trim()) root.unfinished("A questionnaire needs a title.", "title");
  const status = root.text("status");
  if (status !== "draft" && status !== "active" && status !== "retired" && status !== "unknown")
    root.problem('"status" must be draft, active, retired or unknown.', "status");
  const reading: Reading = { problems, translations: new TranslationsIn(), left: mostItems };
  const items = readItems(root, reading, 0);
  if (items.length === 0 && problems.length === 0) root.unfinished("There is no question in it.", "item");
  const signed = root.extensionValue(url.signatureRequired) !== undefined;
  const name = root.text("name");
  const givenKind = root.extensionValue(url.kind);
  if (givenKind !== undefined && !questionnaireKinds.includes(givenKind as QuestionnaireKind))
    root.problem(
      `The kind "${String(givenKind)}" is not known. Kinds are: ${questionnaireKinds.join(", ")}.`,
      "extension",
    );
  const description = root.text("description");
  const language = root.text("language");
  const publisher = root.text("publisher");
  const copyright = root.text("copyright");
  const said = reading.translations;
  said.read(root, "title", "title", title);
  said.read(root, "description", "description", description);
  const sheet = readSheet(root);
  const codes = root.list("code").flatMap((c) => codingFrom(c.json) ?? []);
  const questionnaire: Questionnaire = {
    url: root.text("url") ?? `urn:kind-ledger:questionnaire:${slug(name ?? title ?? "")}`,
    version: root.text("version") ?? "1",
    title: title ?? "",
    status: (status ?? "unknown") as Questionnaire["status"],
    ...(name ? { name } : {}),
    ...(description ? { description } : {}),
    ...(language ? { language } : {}),
    ...(publisher ? { publisher } : {}),
    ...(copyright ? { copyright } : {}),
    kind:
      (givenKind as QuestionnaireKind | undefined) ?? guessKind(signed || allIn(items).some(isSignaturePlace), items),
    codes,
    signed,
    ...signingTermsIn(root),
    items,
    ...said.all(),
    ...(sheet ? { sheet } : {}),
    ...root.rest(),
  };
  checkReferences(questionnaire, problems);
  return { questionnaire, problems };
}

/**
 * The PDF of a worksheet, as the practice's store knows it. A file from elsewhere brings the bytes along (`sheetsIn`),
 * which get an id here when they are stored.
 */
function readSheet(root: Reader): Sheet | undefined {
  const given = root.extensionValue(url.sheet);
  if (given === undefined) return undefined;
  const { contentType, title, size, hash, url: at } = isObject(given) ? given : {};
  if (
    contentType !== "application/pdf" ||
    typeof title !== "string" ||
    typeof size !== "number" ||
    typeof hash !== "string" ||
    typeof at !== "string" ||
    !/^urn:uuid:[0-9a-f-]{36}$/.test(at)
  )
    return root.problem(
      "The PDF of a worksheet needs contentType application/pdf, url (urn:uuid:…), title, size and hash.",
      "extension",
    );
  const sha256 = new Reader(given as JsonObject, "", []).extensionValue(url.sheetDigest);
  return {
    id: at.slice("urn:uuid:".length),
    title,
    size,
    hash,
    ...(typeof sha256 === "string" && /^[0-9a-f]{64}$/.test(sha256) ? { sha256 } : {}),
  };
}
/** The PDFs of worksheets that a file brings along, in base64, by their hash. For a file that reads. */
export function sheetsIn(text: string): ReadonlyMap<string, string> {
  const json = parse(text, largestHandOff);
  const entriesOf = () => {
    if (json.ok && isObject(json.value) && Array.isArray(json.value["entry"]))
      return (json.value["entry"] as unknown[]).flatMap((e) => (isObject(e) ? [e["resource"]] : []));
    if (json.ok) return [json.value];
    return [];
  };
  const entries = entriesOf();
  return new Map(
    entries.flatMap((r) => {
      const a = attachmentOf(r);
      return a && typeof a["data"] === "string" && typeof a["hash"] === "string"
        ? [[a["hash"], a["data"]] as const]
        : [];
    }),
  );
}
function attachmentOf(json: unknown): JsonObject | undefined {
  const given = isObject(json) ? new Reader(json, "", []).extensionValue(url.sheet) : undefined;
  return isObject(given) ? given : undefined;
}

const slug = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "") || "untitled";

const allIn = (items: readonly Item[]): Item[] => items.flatMap((i) => [i, ...allIn(childrenOf(i))]);
function guessKind(signed: boolean, items: readonly Item[]): QuestionnaireKind {
  if (signed) return "consent";
  const scored = (list: readonly Item[]): boolean =>
    list.some((i) => (i.type === "display" ? false : (i.type !== "group" && i.score !== undefined) || scored(i.items)));
  return scored(items) ? "measure" : "intake";
}

/** What is gathered over the whole file. */
interface Reading {
  readonly problems: ImportProblem[];
  readonly translations: TranslationsIn;
  /** How many more items are taken. */
  left: number;
}
function readItems(reader: Reader, reading: Reading, depth: number): Item[] {
  if (depth > deepest) {
    reader.problem(`Sections are nested more than ${deepest} deep.`);
    return [];
  }
  return reader.list("item").flatMap((plain) => {
    if (--reading.left < 0) {
      if (reading.left === -1) plain.problem(`There are more than ${mostItems} items.`);
      return [];
    }
    const linkId = plain.json["linkId"];
    const row = new Reader(plain.json, plain.path, reading.problems, typeof linkId === "string" ? linkId : undefined);
    return readItem(row, reading, depth) ?? [];
  });
}

function readSignaturePlace(reader: Reader): Pick<Display, "signature" | "signer" | "signing"> {
  if (reader.extensionValue(url.signatureRequired) === undefined) return {};
  const said = reader.extensionValue(url.signer);
  const signing = signingIn(reader);
  if (said === undefined) return { signature: true, ...signing };
  const signer = signers.find((one) => one === said);
  if (!signer) reader.problem(`A place is signed by one of: ${signers.join(", ")}.`, "extension");
  return { signature: true, ...(signer ? { signer } : {}), ...signing };
}
function readItem(reader: Reader, reading: Reading, depth: number): Item | undefined {
  const linkId = reader.text("linkId");
  if (!linkId?.trim()) reader.problem("Every item needs a linkId.", "linkId");
  // Answers are kept by linkId in plain objects, which have these names from birth.
  if (linkId && linkId in Object.prototype)
    reader.problem(`The linkId "${linkId}" has a meaning of its own here. Give this item another.`, "linkId");
  const type = reader.text("type");
  reading.translations.read(reader, "text", `text:${linkId ?? ""}`, reader.text("text"));
  const shownWhen = readShownWhen(reader);
  const prefix = reader.text("prefix");
  const base = {
    linkId: linkId ?? "",
    text: reader.text("text") ?? "",
    codes: reader.list("code").flatMap((c) => codingFrom(c.json) ?? []),
    ...(prefix ? { prefix } : {}),
    ...(shownWhen ? { shownWhen } : {}),
  };
  if (type === "display") {
    if (reader.json["item"] !== undefined) reader.problem("Display text cannot hold questions.", "item");
    return {
      ...base,
      type,
      ...readSignaturePlace(reader),
      ...reader.rest(),
    };
  }
  const required = reader.flag("required");
  const repeats = reader.flag("repeats");
  const posting = readPosting(reader);
  if (type === "group") {
    const items = readItems(reader, reading, depth + 1);
    if (items.length === 0) reader.unfinished("A section or group needs at least one question.", "item");
    // Other ways to lay out a group are not ours; they are kept.
    const grid =
      !repeats &&
      controlCode(reader.peek(url.itemControl)) === "htable" &&
      controlCode(reader.extensionValue(url.itemControl)) === "htable";
    return {
      ...base,
      type,
      required,
      repeats,
      items,
      ...(posting ? { posting } : {}),
      ...(grid ? { control: "htable" as const } : {}),
      ...reader.rest(),
    };
  }
  if (type === undefined || !questionTypes.includes(type as QuestionType)) {
    const known = ["group", "display", ...questionTypes].join(", ");
    return reader.problem(`The type "${type ?? ""}" is not a FHIR R4 item type. Types are: ${known}.`, "type");
  }
  return {
    ...base,
    ...readQuestionParts(reader, type as QuestionType, base.linkId, reading.translations),
    required,
    repeats,
    ...(posting ? { posting } : {}),
    items: readItems(reader, reading, depth + 1),
    ...reader.rest(),
  };
}

function readQuestionParts(
  reader: Reader,
  type: QuestionType,
  linkId: string,
  translations: TranslationsIn,
): Pick<Question, "type" | "readOnly" | "options"> & Partial<Question> {
  const options = reader.list("answerOption").flatMap((o) => readOption(o, linkId, translations) ?? []);
  if (reader.json["answerValueSet"] !== undefined)
    reader.problem(
      "Answer options must be written in the file, as answerOption or in a contained ValueSet that lists its codes; a value set elsewhere cannot be looked up.",
      "answerValueSet",
    );
  else if ((type === "choice" || type === "open-choice") && options.length === 0)
    reader.unfinished("A choice needs at least one answerOption.", "answerOption");
  options.forEach((o, i) => {
    if (options.some((other, j) => j < i && sameValue(other.value, o.value)))
      reader.unfinished("The same option stands twice.", `answerOption[${i}]`);
  });
  // Written anew from the options' own rules at export; one that came alone is kept as it is.
  if (options.some((o) => o.shownWhen)) reader.extensions(url.optionsToggle);
  const optional = <K extends keyof Question>(key: K, value: Question[K] | undefined): Partial<Pick<Question, K>> =>
    value === undefined ? {} : ({ [key]: value } as unknown as Partial<Pick<Question, K>>);
  const numberOrText = (v: unknown): number | string | undefined =>
    typeof v === "number" || typeof v === "string" ? v : undefined;
  const limit = (extensionUrl: string): number | string | undefined => {
    const value = numberOrText(reader.extensionValue(extensionUrl));
    if (type !== "date" || typeof value !== "string" || isDate(value)) return value;
    return reader.problem(`There is no day “${value.slice(0, 20)}”. A day is written as YYYY-MM-DD.`, "extension");
  };
  const whole = (v: unknown): number | undefined => (typeof v === "number" && Number.isInteger(v) ? v : undefined);
  const text = (v: unknown): string | undefined => (typeof v === "string" ? v : undefined);
  const help = text(reader.extensionValue(url.help));
  const terms = text(reader.extensionValue(url.terms));
  const ends = readEnds(reader);
  translations.read(reader.extension(url.help), "valueString", `help:${linkId}`, help);
  translations.read(reader.extension(url.terms), "valueString", `terms:${linkId}`, terms);
  translations.read(reader.extension(url.scaleEnds)?.extension("low"), "valueString", `low:${linkId}`, ends?.[0]);
  translations.read(reader.extension(url.scaleEnds)?.extension("high"), "valueString", `high:${linkId}`, ends?.[1]);
  const entryFormat = text(reader.extensionValue(url.entryFormat));
  translations.read(reader.extension(url.entryFormat), "valueString", `example:${linkId}`, entryFormat);
  const keyboard = reader.extensionValue(url.keyboard);
  return {
    type,
    readOnly: reader.flag("readOnly"),
    options,
    ...optional("help", help),
    ...optional("maxLength", reader.whole("maxLength")),
    ...optional("minLength", whole(reader.extensionValue(url.minLength))),
    ...optional("minValue", limit(url.minValue)),
    ...optional("maxValue", limit(url.maxValue)),
    ...optional("maxDecimalPlaces", whole(reader.extensionValue(url.maxDecimalPlaces))),
    ...optional("unit", codingFrom(reader.extensionValue(url.unit)) ?? onlyUnit(reader)),
    ...optional("entryFormat", entryFormat),
    ...optional("pattern", readPattern(reader)),
    ...optional("keyboard", keyboard === "phone" || keyboard === "email" ? (keyboard as "phone" | "email") : undefined),
    ...optional("step", whole(reader.extensionValue(url.sliderStep))),
    ...optional("ends", ends),
    ...optional("terms", terms),
    ...optional("sheetField", text(reader.extensionValue(url.sheetField))),
    ...optional("control", controlCode(reader.extensionValue(url.itemControl))),
    ...optional("score", readScore(reader)),
    ...optional("alert", readAlert(reader)),
  };
}

/** Of several units to choose from none is taken: Proof says so. */
function onlyUnit(reader: Reader): Question["unit"] {
  const offered = Array.isArray(reader.json["extension"])
    ? (reader.json["extension"] as unknown[]).filter((e) => isObject(e) && e["url"] === url.unitOption)
    : [];
  return offered.length === 1 ? codingFrom(reader.extensionValue(url.unitOption)) : undefined;
}
function controlCode(concept: unknown): string | undefined {
  const code =
    isObject(concept) && Array.isArray(concept["coding"]) && isObject(concept["coding"][0])
      ? concept["coding"][0]["code"]
      : undefined;
  return typeof code === "string" ? code : undefined;
}

/** Matched in linear time; what cannot be is refused by name. */
function readPattern(reader: Reader): string | undefined {
  const pattern = reader.extensionValue(url.regex);
  if (pattern === undefined) return undefined;
  if (typeof pattern !== "string") return reader.problem("A regex must be text.", "extension");
  const problem = patternProblem(pattern);
  return problem === undefined ? pattern : reader.problem(problem, "extension");
}

function readOption(reader: Reader, linkId: string, translations: TranslationsIn): AnswerOption | undefined {
  const value = valueFrom(reader, "value");
  const coding = Object.entries(reader.json).find(([k]) => k === "valueCoding")?.[1];
  const onCoding = isObject(coding) ? new Reader(coding, reader.path, []).extensionValue(url.ordinalValue) : undefined;
  const ordinal = reader.extensionValue(url.ordinalValue) ?? onCoding;
  if (ordinal !== undefined && typeof ordinal !== "number")
    reader.problem("An ordinal value must be a number.", "extension");
  const exclusive = reader.extensionValue(url.optionExclusive) === true;
  const shownWhen = readOptionRule(reader);
  if (value?.type === "string") translations.read(reader, "valueString", optionPlace(linkId, { value }), value.value);
  // What else stands in a coding is not kept, so its translations are read without keeping a rest of it.
  if (value?.type === "coding" && isObject(coding))
    translations.read(
      new Reader(coding, `${reader.path}.valueCoding`, []),
      "display",
      optionPlace(linkId, { value }),
      value.value.display,
    );
  return (
    value && {
      value,
      ...(typeof ordinal === "number" ? { ordinal } : {}),
      ...(exclusive ? { exclusive } : {}),
      ...(shownWhen ? { shownWhen } : {}),
      ...reader.rest(),
    }
  );
}

/** What can only be seen with the whole file read: doubled linkIds, conditions and scores that point nowhere. */
function checkReferences(questionnaire: Questionnaire, problems: ImportProblem[]): void {
  const items = allItems(questionnaire);
  const byId = new Map<string, Item>();
  for (const item of items) {
    if (item.linkId !== "" && byId.has(item.linkId))
      problems.push({
        path: "item",
        linkId: item.linkId,
        problem: `The linkId "${item.linkId}" stands twice. Each must be its own.`,
      });
    byId.set(item.linkId, item);
  }
  for (const item of items) {
    for (const condition of conditionsOf(item)) {
      const target = byId.get(condition.question);
      if (!target)
        problems.push({
          path: "item",
          linkId: item.linkId,
          problem: `It is shown when "${condition.question}" is answered, but there is no such question.`,
          unfinished: true,
        });
      else if (target.type === "group" || target.type === "display")
        problems.push({
          path: "item",
          linkId: item.linkId,
          problem: `It depends on "${condition.question}", which is not a question but a ${target.type}.`,
          unfinished: true,
        });
      else if (target === item)
        problems.push({ path: "item", linkId: item.linkId, problem: "It depends on itself.", unfinished: true });
    }
    if (item.type !== "group" && item.type !== "display")
      for (const id of item.score?.items ?? [])
        if (!byId.has(id))
          problems.push({
            path: "item",
            linkId: item.linkId,
            problem: `The score counts "${id}", but there is no such question.`,
            unfinished: true,
          });
  }
}
