import { isQuestion, type Item } from "./definition";

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null;
const askedAs: Readonly<Record<string, string>> = {
  dateTime: "asked for a day and a time in its file; here it asks for the day",
  reference: "pointed to another record in its file; here it is answered in words",
  question: "had no kind in its file; here it is asked as it reads",
};
/**
 * What a file asked of a line that is not done here, in words; the elements themselves are kept and written out again.
 */
export function notHonoured(item: Item): string[] {
  const kept = item.kept ?? {};
  const extensions = (Array.isArray(kept["extension"]) ? (kept["extension"] as unknown[]) : []).filter(isObject);
  const has = (end: string): boolean =>
    extensions.some((e) => typeof e["url"] === "string" && e["url"].toLowerCase().endsWith(end.toLowerCase()));
  const said: string[] = [];
  for (const extension of extensions)
    if (typeof extension["url"] === "string" && extension["url"].endsWith("/read-as")) {
      const words = askedAs[String(extension["valueCode"])];
      if (words) said.push(words);
    }
  if (has("-calculatedExpression") && !(isQuestion(item) && item.score))
    said.push(
      "was computed by an expression in its file, which is not computed here: make it a score if it adds up answers",
    );
  if (has("-initialExpression") || Array.isArray(kept["initial"]))
    said.push("began with an answer in its file; here the client answers it");
  if (has("questionnaire-unitOption"))
    said.push("offered several units in its file; here it is asked without one: choose one");
  if (has("-enableWhenExpression")) said.push("was shown by an expression in its file; here it is always shown");
  if (
    isQuestion(item) &&
    item.options.some((o) => isObject(o.kept) && (o.kept as Record<string, unknown>)["initialSelected"] === true)
  )
    said.push("began with an option chosen in its file; here the client chooses");
  return said;
}
