/**
 * A named place in the chart. `identity` fields say who the client is and how to reach them: a posting never changes
 * them unless somebody decided it. `rows` fields hold a list; two rows are the same thing when their `matchOn` column
 * is.
 */
export type ChartField =
  | {
      readonly key: string;
      readonly label: string;
      readonly section: ChartSection;
      readonly kind: "text" | "long-text" | "date" | "email" | "phone" | "yes-no" | "number";
      readonly identity: boolean;
    }
  | {
      readonly key: string;
      readonly label: string;
      readonly section: ChartSection;
      readonly kind: "rows";
      readonly identity: false;
      readonly matchOn: string;
      readonly columns: readonly { readonly key: string; readonly label: string }[];
    };

export const chartSections = ["who", "contact", "health", "life", "care", "results"] as const;
export type ChartSection = (typeof chartSections)[number];
export const chartSectionTitles: Record<ChartSection, string> = {
  who: "Identity",
  contact: "Contact",
  health: "Health",
  life: "Daily life",
  care: "Care wishes",
  results: "Results",
};

const who = (key: string, label: string, kind: "text" | "date" | "email" | "phone" = "text"): ChartField => ({
  key,
  label,
  section: "who",
  kind,
  identity: true,
});
const plain = (
  section: ChartSection,
  key: string,
  label: string,
  kind: "text" | "long-text" | "date" | "phone" | "yes-no" | "number" = "text",
): ChartField => ({ key, label, section, kind, identity: false });

/** The fields every practice has. */
export const builtInFields: readonly ChartField[] = [
  who("first-name", "First name"),
  who("last-name", "Last name"),
  who("birth-date", "Birth date", "date"),
  who("email", "E-mail", "email"),
  who("phone", "Phone", "phone"),
  plain("contact", "preferred-name", "Likes to be called"),
  plain("contact", "pronouns", "Pronouns"),
  plain("contact", "address", "Address", "long-text"),
  plain("contact", "emergency-name", "Emergency contact"),
  plain("contact", "emergency-relation", "Emergency relation"),
  plain("contact", "emergency-phone", "Emergency phone", "phone"),
  plain("contact", "family-doctor", "Family doctor"),
  {
    key: "medicines",
    label: "Medicines and supplements",
    section: "health",
    kind: "rows",
    identity: false,
    matchOn: "name",
    columns: [
      { key: "name", label: "Name" },
      { key: "dose", label: "Dose" },
      { key: "often", label: "How often" },
      { key: "reason", label: "What for" },
    ],
  },
  {
    key: "allergies",
    label: "Allergies",
    section: "health",
    kind: "rows",
    identity: false,
    matchOn: "substance",
    columns: [
      { key: "substance", label: "To what" },
      { key: "reaction", label: "What happens" },
    ],
  },
  plain("health", "conditions", "Conditions", "long-text"),
  plain("health", "operations", "Operations, injuries", "long-text"),
  plain("health", "pregnancy", "Pregnancy, birth"),
  plain("life", "occupation", "Work or study"),
  plain("life", "sleep-hours", "Hours of sleep", "number"),
  plain("life", "movement", "Movement"),
  plain("life", "alcohol", "Alcohol"),
  plain("life", "tobacco", "Tobacco"),
  plain("life", "support", "Support", "long-text"),
  plain("care", "main-concern", "Main concern", "long-text"),
  plain("care", "goals", "Goals", "long-text"),
  plain("care", "earlier-care", "Earlier care", "long-text"),
  plain("results", "phq9-total", "PHQ-9 total", "number"),
];

export const fieldByKey = (key: string, fields: readonly ChartField[] = builtInFields): ChartField | undefined =>
  fields.find((f) => f.key === key);
