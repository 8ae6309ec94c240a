import { SaxesParser, type SaxesTagNS } from "saxes";
import { fail, ok, type Result } from "../shared";

/** One text of an XLIFF 2.0 file with what was made of it; without `target` nobody translated it. */
export interface XliffUnit {
  readonly name: string;
  readonly source: string;
  readonly target?: string;
  /** Whether a translator said that the target stands (`state` other than `initial`, XLIFF 2.0 4.3.1.31). */
  readonly confirmed: boolean;
}
export interface XliffFile {
  readonly original: string;
  readonly sourceLanguage: string;
  readonly targetLanguage: string;
  readonly units: readonly XliffUnit[];
}
export const xliffNamespace = "urn:oasis:names:tc:xliff:document:2.0";
/** Largest file taken, in characters. */
export const largestXliff = 4_000_000;

/**
 * Reads an XLIFF 2.x file (OASIS, ISO 21720). Segments of a unit are joined in their order, inline tags give their
 * text. Errors are sentences. A document type is refused: nothing in XLIFF needs one, and entities can be made to
 * explode.
 */
export function readXliff(text: string): Result<XliffFile, string> {
  if (text.length > largestXliff) return fail("The file is larger than 4 MB.");
  if (/<!DOCTYPE/i.test(text))
    return fail("The file has a document type (<!DOCTYPE>). Take that line out; XLIFF does not need one.");
  const parser = new SaxesParser({ xmlns: true });
  const stack: string[] = [];
  const units: XliffUnit[] = [];
  let original = "";
  let sourceLanguage = "";
  let targetLanguage = "";
  let version = "";
  let files = 0;
  let unit: { name: string; source: string; target: string | undefined; states: string[] } | undefined;
  let into: "source" | "target" | undefined;
  let broken: string | undefined;
  const attribute = (tag: SaxesTagNS, name: string): string => tag.attributes[name]?.value ?? "";
  parser.on("error", (error) => {
    broken ??= error.message;
  });
  parser.on("opentag", (tag) => {
    const own = tag.uri === xliffNamespace ? tag.local : "";
    stack.push(own);
    if (own === "xliff")
      [version, sourceLanguage, targetLanguage] = ["version", "srcLang", "trgLang"].map((n) => attribute(tag, n)) as [
        string,
        string,
        string,
      ];
    else if (own === "file") {
      files++;
      original ||= attribute(tag, "original");
    } else if (own === "unit")
      unit = { name: attribute(tag, "name") || attribute(tag, "id"), source: "", target: undefined, states: [] };
    else if (own === "segment") unit?.states.push(attribute(tag, "state") || "initial");
    else if ((own === "source" || own === "target") && ["segment", "ignorable"].includes(stack.at(-2) ?? "")) {
      into = own;
      if (own === "target" && unit) unit.target ??= "";
    } else if (own === "cp" && into && unit) {
      const code = Number.parseInt(attribute(tag, "hex"), 16);
      if (code > 0 && code <= 0x10ffff) add(String.fromCodePoint(code));
    }
  });
  const add = (words: string): void => {
    if (!unit || !into) return;
    if (into === "source") unit.source += words;
    else unit.target = (unit.target ?? "") + words;
  };
  parser.on("text", add);
  parser.on("cdata", add);
  parser.on("closetag", () => {
    const own = stack.pop();
    if (own === into) into = undefined;
    if (own !== "unit" || !unit) return;
    const { name, source, target, states } = unit;
    units.push({
      name,
      source,
      ...(target === undefined || target.trim() === "" ? {} : { target }),
      confirmed: states.length > 0 && states.every((s) => s !== "initial"),
    });
    unit = undefined;
  });
  parser.write(text.replace(/^\uFEFF/, "")).close();
  if (broken !== undefined) return fail(`This is not well-formed XML (${broken}).`);
  if (version === "")
    return fail(
      "This is not an XLIFF 2.0 file. Export one here, have it translated, and bring that back; files of version 1.2 are not read.",
    );
  if (files !== 1) return fail(`The XLIFF has ${files} <file> parts; one questionnaire is one.`);
  if (targetLanguage === "") return fail("The file does not say which language it was translated into (trgLang).");
  return ok({ original, sourceLanguage, targetLanguage, units });
}
