import type { Questionnaire } from "../questionnaire";

/** Of use in any practice. */
const everywhere = [
  "privacy-notice",
  "remote-consent",
  "cancellation-terms",
  "goals-preparation",
  "before-visit",
  "yearly-check",
  "session-feedback",
] as const;
/** What fits which work, by the names of the starters. */
const own = {
  counselling: ["who-5", "gad-7", "phq-4", "k10", "pcl-5", "audit"],
  children: ["child-intake", "photo-consent"],
  physiotherapy: ["physiotherapy-intake", "photo-consent", "who-5"],
  dietetics: ["dietitian-intake", "who-5", "audit"],
  perinatal: ["perinatal-intake", "phq-4", "who-5"],
  skin: ["skin-consultation", "photo-consent"],
} as const satisfies Readonly<Record<string, readonly string[]>>;

export type Discipline = keyof typeof own;
export const disciplines = Object.keys(own) as readonly Discipline[];
export const disciplineWords: Readonly<Record<Discipline, string>> = {
  counselling: "Counselling and psychotherapy",
  children: "Work with children",
  physiotherapy: "Physiotherapy",
  dietetics: "Dietetics",
  perinatal: "Midwifery and perinatal care",
  skin: "Skin and wellness",
};
export const fitsDiscipline = ({ name }: Pick<Questionnaire, "name">, discipline: Discipline): boolean =>
  name !== undefined && ([...everywhere, ...own[discipline]] as readonly string[]).includes(name);
