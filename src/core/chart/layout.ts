import { chartSections, type ChartField, type ChartSection } from "./fields";

/** How a practice lays its charts out; what is not said is as it starts. */
export interface ChartLayout {
  /** Sections in their order; those that are left out follow. */
  readonly sections?: readonly ChartSection[];
  /** Keys of fields that are shown only where they hold something. */
  readonly hidden?: readonly string[];
  /** Keys of fields that stand at the head of each chart. */
  readonly quick?: readonly string[];
}
/** Quick facts of a practice that chose none. */
export const startingQuick: readonly string[] = ["preferred-name", "pronouns", "medicines", "main-concern"];
export const mostQuick = 8;

export const sectionsIn = ({ sections = [] }: ChartLayout): readonly ChartSection[] => [
  ...sections,
  ...chartSections.filter((section) => !sections.includes(section)),
];
/** The quick facts that there are, in their order. */
export const quickIn = ({ quick = startingQuick }: ChartLayout, fields: readonly ChartField[]): readonly ChartField[] =>
  quick.flatMap((key) => fields.find((field) => field.key === key) ?? []);
