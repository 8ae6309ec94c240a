import { signatureWays, type SheetBox, type SignatureWay, type SigningRule, type SigningTerms } from "../questionnaire";
import { emptyText, type JsonObject, type Reader } from "./json";
import { url } from "./urls";

const parts = (extensionUrl: string, given: readonly (JsonObject | undefined)[]): JsonObject[] => {
  const extension = given.filter((one) => one !== undefined);
  return extension.length > 0 ? [{ url: extensionUrl, extension }] : [];
};
const one = (name: string, type: string, value: unknown): JsonObject | undefined =>
  value === undefined ? undefined : { url: name, [type]: value };
/** FHIR has no empty text. */
const words = (text: string | undefined): string | undefined => (text === "" ? emptyText : text);

/** Who signs at a place, as an extension of ours; none where nothing is said. */
export function signingOut(rule: SigningRule | undefined): JsonObject[] {
  if (!rule) return [];
  const { title, from, ages, optional, after, ways, onSheet } = rule;
  const source = from?.kind === "answers" ? "FromAnswer" : "";
  return parts(url.signing, [
    one("title", "valueString", words(title)),
    one(`name${source}`, "valueString", words(from?.name)),
    one(`email${source}`, "valueString", words(from?.email)),
    one("fromAge", "valueInteger", ages?.from),
    one("belowAge", "valueInteger", ages?.below),
    one("optional", "valueBoolean", optional),
    one("after", "valueString", after),
    ...(ways ?? []).map((way) => one("way", "valueCode", way)),
    onSheet &&
      parts(
        "onSheet",
        boxParts.map((side) => one(side, "valueDecimal", onSheet[side])),
      )[0],
  ]);
}
const boxParts = ["page", "left", "bottom", "width", "height"] as const;
/** No page of a PDF is larger (ISO 32000-1, annex C). */
const mostPoints = 14_400;
function boxIn(given: Reader): SheetBox | undefined {
  const said = given.extension("onSheet");
  if (!said) return undefined;
  const [page, left, bottom, width, height] = boxParts.map((side) => {
    const value = said.extensionValue(side);
    return typeof value === "number" && Math.abs(value) <= mostPoints ? value : Number.NaN;
  }) as [number, number, number, number, number];
  if (![left, bottom].every(Number.isFinite) || !(width > 0) || !(height > 0) || !Number.isInteger(page) || page < 1)
    return said.problem("A place on a PDF is a page from 1, and left, bottom, width and height in points.");
  return { page, left, bottom, width, height };
}
const age = (value: unknown): number | undefined =>
  typeof value === "number" && Number.isInteger(value) && value >= 0 && value <= 150 ? value : undefined;
export function signingIn(reader: Reader): { readonly signing?: SigningRule } {
  const given = reader.extension(url.signing);
  if (!given) return {};
  const text = (name: string): string | undefined => {
    const value = given.extensionValue(name);
    return typeof value === "string" ? value : undefined;
  };
  const nameFrom = text("nameFromAnswer");
  const emailFrom = text("emailFromAnswer");
  const name = text("name");
  const email = text("email");
  const title = text("title");
  const after = text("after");
  const from = age(given.extensionValue("fromAge"));
  const below = age(given.extensionValue("belowAge"));
  const said = given.extensions("way").map((way) => way.json["valueCode"]);
  const ways = signatureWays.filter((way) => said.includes(way));
  if (ways.length < said.length)
    given.problem(`A signature is made in one of these ways: ${signatureWays.join(", ")}.`);
  const onSheet = boxIn(given);
  const signing: SigningRule = {
    ...(title === undefined ? {} : { title }),
    ...(nameFrom !== undefined || emailFrom !== undefined
      ? { from: { kind: "answers", name: nameFrom ?? "", email: emailFrom ?? "" } as const }
      : {}),
    ...(name !== undefined || email !== undefined
      ? { from: { kind: "fixed", name: name ?? "", email: email ?? "" } as const }
      : {}),
    ...(from === undefined && below === undefined
      ? {}
      : { ages: { ...(from === undefined ? {} : { from }), ...(below === undefined ? {} : { below }) } }),
    ...(given.extensionValue("optional") === true ? { optional: true as const } : {}),
    ...(after === undefined ? {} : { after }),
    ...(ways.length > 0 ? { ways: ways as readonly SignatureWay[] } : {}),
    ...(onSheet ? { onSheet } : {}),
  };
  return { signing };
}

/** What holds for all signatures, as an extension of the questionnaire. */
export const signingTermsOut = (terms: SigningTerms | undefined): JsonObject[] =>
  terms
    ? parts(url.signingTerms, [
        one("freeOrder", "valueBoolean", terms.freeOrder),
        one("talk", "valueBoolean", terms.talk),
        one("months", "valueInteger", terms.months),
      ])
    : [];
const mostMonths = 1200;
export function signingTermsIn(root: Reader): { readonly signing?: SigningTerms } {
  const given = root.extension(url.signingTerms);
  if (!given) return {};
  const months = given.extensionValue("months");
  const stands = typeof months === "number" && Number.isInteger(months) && months > 0 && months <= mostMonths;
  if (months !== undefined && !stands) given.problem(`A consent stands for 1 to ${mostMonths} whole months.`);
  return {
    signing: {
      ...(given.extensionValue("freeOrder") === true ? { freeOrder: true as const } : {}),
      ...(given.extensionValue("talk") === true ? { talk: true as const } : {}),
      ...(stands ? { months: months as number } : {}),
    },
  };
}
