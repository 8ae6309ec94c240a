import type { ChartUnit } from "./convert";
import type { RowValue } from "./entries";

interface FieldBase {
  readonly key: string;
  readonly label: string;
  readonly section: ChartSection;
}
/**
 * A named place in the chart. `identity` fields say who the client is and how to reach them: a posting never changes
 * them unless somebody decided it. A `long-text` is a narrative, where it is not a single thing: what is added stands below what is there, dated. `rows`
 * fields hold a list; two rows are the same thing when their `matchOn` column is.
 */
export type ChartField =
  | (FieldBase & {
      readonly kind: "text" | "long-text" | "date" | "email" | "phone" | "yes-no" | "number";
      readonly identity: boolean;
      /** Of a number: what it is counted in; amounts in other units are converted. */
      readonly unit?: ChartUnit;
      /** Of a long text: one thing in several lines, as an address; the new takes the place of the old. */
      readonly single?: true;
    })
  | (FieldBase & {
      readonly kind: "rows";
      readonly identity: false;
      readonly matchOn: string;
      readonly columns: readonly { readonly key: string; readonly label: string }[];
    });

/** In the order practitioners read them. */
export const chartSections = [
  "who",
  "contact",
  "cover",
  "concern",
  "mind",
  "health",
  "life",
  "development",
  "family",
  "food",
  "care",
  "consents",
  "results",
] as const;
export type ChartSection = (typeof chartSections)[number];
export const chartSectionTitles: Record<ChartSection, string> = {
  who: "Identity",
  contact: "Contact",
  cover: "Cover and payment",
  concern: "Presenting concern",
  mind: "Mental-health history",
  health: "Medical history",
  life: "Social history",
  development: "Development",
  family: "Family history",
  food: "Food and lifestyle",
  care: "Goals",
  consents: "Consents",
  results: "Measures",
};

type PlainKind = Exclude<ChartField["kind"], "rows" | "email">;
const who = (key: string, label: string, kind: "text" | "date" | "email" | "phone" = "text"): ChartField => ({
  key,
  label,
  section: "who",
  kind,
  identity: true,
});
const plain = (section: ChartSection, key: string, label: string, kind: PlainKind = "text"): ChartField => ({
  key,
  label,
  section,
  kind,
  identity: false,
});
const told = (section: ChartSection, key: string, label: string): ChartField => plain(section, key, label, "long-text");
const measured = (section: ChartSection, key: string, label: string, unit: ChartUnit): ChartField => ({
  key,
  label,
  section,
  kind: "number",
  identity: false,
  unit,
});
/** A list, matched on its first column. */
const list = (
  section: ChartSection,
  key: string,
  label: string,
  columns: readonly (readonly [key: string, label: string])[],
): ChartField => ({
  key,
  label,
  section,
  kind: "rows",
  identity: false,
  matchOn: columns[0]![0],
  columns: columns.map(([column, words]) => ({ key: column, label: words })),
});

/** The fields every practice has. */
export const builtInFields: readonly ChartField[] = [
  who("first-name", "First name"),
  who("last-name", "Last name"),
  who("birth-date", "Birth date", "date"),
  who("email", "E-mail", "email"),
  who("phone", "Phone", "phone"),
  plain("contact", "preferred-name", "Likes to be called"),
  plain("contact", "pronouns", "Pronouns"),
  { key: "address", label: "Address", section: "contact", kind: "long-text", identity: false, single: true },
  plain("contact", "emergency-name", "Emergency contact"),
  plain("contact", "emergency-relation", "Emergency relation"),
  plain("contact", "emergency-phone", "Emergency phone", "phone"),
  plain("contact", "family-doctor", "Family doctor"),
  plain("cover", "payer", "Who pays"),
  plain("cover", "insurer", "Insurer"),
  plain("cover", "member-number", "Member number"),
  plain("cover", "referred-by", "Referred by"),
  told("concern", "main-concern", "Main concern"),
  told("concern", "concern-since", "Since when, and what sets it off"),
  told("mind", "earlier-care", "Outpatient care"),
  told("mind", "inpatient-care", "Inpatient care"),
  told("mind", "earlier-medicines", "Earlier medicines"),
  plain("mind", "alcohol", "Alcohol"),
  plain("mind", "tobacco", "Tobacco"),
  told("mind", "substances", "Other substances"),
  told("mind", "feelings", "Emotions and behaviour"),
  told("mind", "safety", "Safety and risk"),
  list("health", "medicines", "Medicines and supplements", [
    ["name", "Name"],
    ["dose", "Dose"],
    ["often", "How often"],
    ["reason", "What for"],
    ["since", "Since"],
  ]),
  list("health", "allergies", "Allergies", [
    ["substance", "To what"],
    ["reaction", "What happens"],
  ]),
  list("health", "condition-list", "Conditions", [
    ["condition", "What"],
    ["since", "Since"],
    ["now", "How it is now"],
  ]),
  told("health", "conditions", "Conditions, in their words"),
  list("health", "surgeries", "Surgeries and stays", [
    ["what", "What"],
    ["when", "When"],
    ["where", "Where"],
  ]),
  told("health", "operations", "Operations, injuries"),
  told("health", "childhood-health", "Childhood health"),
  plain("health", "movement", "Movement"),
  measured("health", "weight", "Weight, kg", "kg"),
  measured("health", "height", "Height, cm", "cm"),
  measured("health", "temperature", "Temperature, °C", "Cel"),
  told("life", "childhood", "Childhood"),
  told("life", "living", "Living"),
  told("life", "support", "Support"),
  told("life", "money", "Money"),
  plain("life", "occupation", "Work or study"),
  told("life", "legal", "Legal"),
  told("life", "military", "Military service"),
  told("life", "sexuality", "Sexuality"),
  told("life", "community", "Community"),
  told("life", "hobbies", "Hobbies"),
  told("life", "faith", "Faith"),
  told("life", "relationships", "Relationships"),
  list("life", "children", "Children", [
    ["name", "Name"],
    ["born", "Born"],
    ["lives", "Lives with"],
  ]),
  plain("development", "pregnancy", "Pregnancy, birth"),
  told("development", "milestones", "Milestones"),
  list("family", "family-history", "Illness in the family", [
    ["relative", "Who"],
    ["condition", "What"],
    ["age", "At what age"],
  ]),
  told("food", "eating", "Eating and drinking"),
  plain("food", "sleep-hours", "Hours of sleep", "number"),
  told("food", "days", "Days and habits"),
  told("care", "goals", "Goals"),
  told("care", "care-wishes", "Wishes for the work"),
  list("care", "events", "Events, such as a break", [
    ["what", "What"],
    ["when", "When"],
  ]),
  plain("results", "phq9-total", "PHQ-9 total", "number"),
];

export const fieldByKey = (key: string, fields: readonly ChartField[] = builtInFields): ChartField | undefined =>
  fields.find((f) => f.key === key);

/** It goes on: what is added stands below what is there. */
export const isNarrative = (field: ChartField): boolean => field.kind === "long-text" && field.single !== true;
/** What a row holds, in the order of its columns. */
export const rowWords = (field: ChartField, value: RowValue): string =>
  field.kind === "rows" ? field.columns.flatMap((column) => value[column.key] || []).join(", ") : "";
