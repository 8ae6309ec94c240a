import { sourceLanguage, textsOf, translationState, type Questionnaire, type SourceText } from "../questionnaire";
import { xliffNamespace } from "./read";

const escapes: Readonly<Record<string, string>> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "\r": "&#13;",
};
/** XML text or attribute; signs that XML 1.0 cannot hold are left out. */
const xml = (text: string): string =>
  text
    .replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]|\p{Surrogate}/gu, "")
    .replace(/[&<>"\r]/g, (sign) => escapes[sign]!);
const partWords: Readonly<Record<SourceText["part"], string>> = {
  title: "Title",
  description: "Description",
  text: "Question or text",
  help: "Help below a question",
  terms: "Terms to read",
  example: "Example in the empty field",
  low: "Low end of a scale",
  high: "High end of a scale",
  option: "Option of a question",
};

/** Every text of a questionnaire with its translation as far as there is one, as XLIFF 2.0 (OASIS, ISO 21720). */
export function writeXliff(questionnaire: Questionnaire, language: string): string {
  const said = questionnaire.translations?.[language] ?? {};
  const questions = new Map(
    textsOf(questionnaire)
      .filter((t) => t.part === "text")
      .map((t) => [t.linkId, t.source]),
  );
  const units = textsOf(questionnaire).map((t, index) => {
    const translated = said[t.place];
    const state = translationState(t, translated);
    const notes = [
      t.part === "option" || t.part === "help" || t.part === "example"
        ? `${partWords[t.part]}: ${questions.get(t.linkId) ?? ""}`
        : partWords[t.part],
      ...(state === "out-of-date" ? [`The words changed since this was translated. They were: ${translated!.of}`] : []),
    ];
    return [
      `    <unit id="u${index + 1}" name="${xml(t.place)}" xml:space="preserve">`,
      "      <notes>",
      ...notes.map((n) => `        <note>${xml(n)}</note>`),
      "      </notes>",
      `      <segment state="${state === "done" ? "translated" : "initial"}">`,
      `        <source>${xml(t.source)}</source>`,
      ...(translated ? [`        <target>${xml(translated.text)}</target>`] : []),
      "      </segment>",
      "    </unit>",
    ].join("\n");
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<xliff xmlns="${xliffNamespace}" version="2.0" srcLang="${xml(sourceLanguage(questionnaire))}" trgLang="${xml(language)}">
  <file id="questionnaire" original="${xml(questionnaire.url)}">
${units.join("\n")}
  </file>
</xliff>
`;
}
