/** What standing text of a layout may name, and what it stands for. */
export const notePlaceholders = [
  "client.preferredName",
  "client.name",
  "client.goals",
  "visit.date",
  "visit.type",
  "today",
  "practitioner.name",
  "practice.name",
  "practice.email",
  "scores.latest",
  "scores.change",
] as const;
export type NotePlaceholder = (typeof notePlaceholders)[number];
export type NoteValues = Readonly<Record<NotePlaceholder, string>>;

const pattern = /\{\{\s*([^{}]*?)\s*\}\}/g;
/** Names in a text that stand for nothing. */
export const unknownPlaceholders = (text: string): readonly string[] => [
  ...new Set(
    [...text.matchAll(pattern)]
      .map(([, name = ""]) => name)
      .filter((name) => !(notePlaceholders as readonly string[]).includes(name)),
  ),
];
/** A text with what its placeholders stand for, read once: what a value says is never read as a placeholder. */
export const resolve = (text: string, values: Partial<NoteValues>): string =>
  text.replace(pattern, (whole, name: string) => values[name as NotePlaceholder] ?? whole);
