import { isQuestion, type Coding, type Group, type Question } from "../questionnaire";
import type { ChartField } from "./fields";

const loinc = "http://loinc.org";
/** Fields by LOINC code. From memory, of LOINC 2.7x; names as LOINC has them. */
const codes: Readonly<Record<string, string>> = {
  "29463-7": "weight", // Body weight
  "8302-2": "height", // Body height
  "8310-5": "temperature", // Body temperature
  "11331-6": "alcohol", // History of Alcohol use
  "72166-2": "tobacco", // Tobacco smoking status
  "11341-5": "occupation", // History of Occupation
  "10154-3": "main-concern", // Chief complaint Narrative
  "48765-2": "allergies", // Allergies and adverse reactions Document
  "10160-0": "medicines", // History of Medication use Narrative
  "11450-4": "condition-list", // Problem list - Reported
  "47519-4": "surgeries", // History of Procedures Document
  "10157-6": "family-history", // History of family member diseases Narrative
  "44261-6": "phq9-total", // Patient Health Questionnaire 9 item total score
};
export const fieldOfCode = (given: readonly Coding[]): string | undefined =>
  given.flatMap(({ system, code }) => (system === loinc && code !== undefined ? (codes[code] ?? []) : []))[0];

/**
 * How questions about a chart field are worded in intake forms (common practice); the first that fits. In English: other
 * languages have the same line under the words it was written in.
 */
const wordings: readonly (readonly [field: string, pattern: RegExp])[] = [
  ["preferred-name", /(like|prefer).*\bcalled\b|preferred name|nickname/],
  ["pronouns", /\bpronouns?\b/],
  ["address", /^(home |postal )?address$|where do you live/],
  ["emergency-name", /emergency contact$|emergency contact.*name|who.*in an emergency/],
  ["emergency-phone", /emergency.*(phone|number)/],
  ["emergency-relation", /emergency.*relation/],
  ["family-doctor", /family doctor|\bgp\b|primary care/],
  ["insurer", /\binsur(er|ance)\b(?!.*number)/],
  ["member-number", /(member|policy|insurance).*number/],
  ["payer", /who pays/],
  ["referred-by", /referred|how did you hear/],
  ["concern-since", /(since when|how long|when did).*(begin|start|had|this|it)|what sets it off/],
  ["main-concern", /brings? you( here)?|main (concern|complaint|reason)|reason for (your )?visit|like help with/],
  ["inpatient-care", /hospital.*(mental|mood|mind)|inpatient/],
  ["earlier-medicines", /(earlier|past|previous).*(medicines?|medications?)/],
  ["earlier-care", /(earlier|past|previous|before).*(care|therap|counsell|treatment|help)/],
  ["alcohol", /\balcohol\b|\bdrink(s|ing)?\b.*(week|day|often)/],
  ["tobacco", /\bsmok|\btobacco\b|\bvap(e|ing)\b|nicotine/],
  ["substances", /(other|recreational) (drugs|substances)|substance use/],
  ["safety", /(harm|hurt|kill).*(yourself|others)|suicid|safe at home/],
  ["medicines", /medicines?|medications?|supplements?/],
  ["allergies", /allerg/],
  ["surgeries", /(surger(y|ies)|operations?|hospital stays?)/],
  ["operations", /(surger(y|ies)|operations?|injur(y|ies))/],
  ["condition-list", /(conditions?|illness(es)?|diagnos(is|es))(?!.*family)/],
  ["conditions", /(conditions?|illness(es)?|diagnos(is|es))(?!.*family)/],
  ["childhood-health", /health.*(child|young)|childhood (illness|health)/],
  ["movement", /\bexercise\b|\bmovement\b|physical activity/],
  ["weight", /\b(weigh|weight)\b/],
  ["height", /\b(height|tall)\b/],
  ["temperature", /\btemperature\b/],
  ["childhood", /childhood|grow(ing)? up/],
  ["living", /who (do )?you live with|living situation|at home with you/],
  ["money", /^(money|finances)|worr.*money|financial (situation|strain)/],
  ["occupation", /\boccupation\b|^(your )?(work|job)\b|what (work|do you do)|work or study/],
  ["legal", /\blegal (trouble|matters|history)|^legal\b/],
  ["military", /\bmilitary\b|armed forces/],
  ["sexuality", /\bsexual/],
  ["community", /^(your )?(community|neighbou?rhood)/],
  ["hobbies", /hobb(y|ies)|free time|enjoy doing/],
  ["faith", /\b(faith|religio|spiritual)/],
  ["relationships", /^(your )?relationships?\b|have a partner/],
  ["children", /^(your )?children\b|have (any )?children/],
  ["support", /who (supports you|can you (turn|talk) to)|^support\b/],
  ["pregnancy", /\bpregnan|\bbirth (weight|story)|giving birth/],
  ["milestones", /milestones?|(walk|talk)(ed|ing)? (first|at what age)/],
  ["family-history", /(in (your|the) family|family history|relatives)/],
  ["sleep-hours", /hours.*sleep|sleep.*hours/],
  ["eating", /(what|how).*\b(eat|meals)\b|^(eating|diet|food)\b/],
  ["days", /(typical|usual) day|^(daily )?habits/],
  ["goals", /\bgoals?\b|hope to (reach|change)|like to (reach|change)/],
  ["care-wishes", /wishes for|matters to you in/],
];
/** In letters: longer questions are about more than one thing. */
const longest = 90;
/** The field that a line's words are about; of the practice's own fields those whose name it says. */
export function fieldOfWords(item: Question | Group, fields: readonly ChartField[]): string | undefined {
  const words = item.text.normalize("NFKC").toLowerCase().trim();
  if (words === "" || words.length > longest) return undefined;
  const isRows = item.type === "group";
  const shaped = fields.filter((field) => (field.kind === "rows") === isRows && !field.identity);
  const named = shaped.find((field) => words.replaceAll(/[?.:!]+$/g, "") === field.label.toLowerCase());
  if (named) return named.key;
  if (isQuestion(item) && item.score) return undefined;
  const worded = wordings.find(
    ([key, pattern]) => shaped.some((field) => field.key === key) && pattern.test(words),
  )?.[0];
  const field = shaped.find((one) => one.key === worded);
  return field && (isRows || holds(field, item as Question)) ? field.key : undefined;
}
/** How the columns of a list are worded, by the column's key (common practice). */
const columnWordings: readonly (readonly [column: string, pattern: RegExp])[] = [
  ["often", /how often|frequen|times|when do you take/],
  ["dose", /\bdos(e|age)\b|strength|how much|amount/],
  ["reason", /what for|\breason\b|\bwhy\b|used for/],
  ["since", /since|start|beg[au]n|how long/],
  ["reaction", /happens?\b|reaction|symptom/],
  ["now", /\bnow\b|current|treated/],
  ["age", /\bage\b|how old/],
  ["relative", /\bwho\b|relative|relation|member/],
  ["condition", /condition|illness|diagnos/],
  ["substance", /to what|substance|allerg/],
  ["name", /\bname\b|medicine|medication|\bdrug\b|supplement/],
  ["when", /\bwhen\b|\byear\b|\bdate\b/],
  ["where", /\bwhere\b|hospital/],
  ["born", /\bborn\b|birth/],
  ["lives", /\bliv(es?|ing)\b/],
  ["what", /operation|surgery|procedure/],
];
/** The column of these that a question of a list's is about; undefined where its words fit none. */
export function columnOfWords(
  text: string,
  columns: readonly { readonly key: string; readonly label: string }[],
): string | undefined {
  const words = text
    .normalize("NFKC")
    .toLowerCase()
    .replaceAll(/[?.:!]+$/g, "")
    .trim();
  if (words === "" || words.length > longest) return undefined;
  const named = columns.find(({ label }) => words === label.toLowerCase());
  const worded = columnWordings.find(
    ([column, pattern]) => columns.some(({ key }) => key === column) && pattern.test(words),
  )?.[0];
  return named?.key ?? worded;
}
/** Whether an answer of this type says something in a field of this kind. */
function holds(field: ChartField, { type }: Question): boolean {
  switch (field.kind) {
    case "number":
      return ["integer", "decimal", "quantity"].includes(type) || (field.unit !== undefined && type === "string");
    case "date":
      return type === "date";
    case "yes-no":
      return type === "boolean";
    case "phone":
      return type === "string";
    default:
      return type !== "attachment" && type !== "url";
  }
}
