import type { ChartField, ChartSection } from "./fields";

/** Kinds of chart field a practice may add; the others say who somebody is and how to reach them, and are built in. */
export const ownFieldKinds = ["text", "long-text", "number", "date", "yes-no", "rows"] as const;
export type OwnFieldKind = (typeof ownFieldKinds)[number];
export const ownFieldSections = [
  "contact",
  "health",
  "life",
  "care",
  "results",
] as const satisfies readonly ChartSection[];

/** The key of something that is called `label`, unlike all that are `taken`. It stays when the label changes. */
export function keyFor(label: string, taken: ReadonlySet<string>): string {
  const stem =
    label
      .toLowerCase()
      .normalize("NFKC")
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 40) || "field";
  for (let index = 1; ; index++) {
    const key = index === 1 ? stem : `${stem}-${index}`;
    if (!taken.has(key)) return key;
  }
}

/** A chart field of the practice's own. A list is matched on its first column. */
export function ownField(
  key: string,
  label: string,
  section: ChartSection,
  kind: OwnFieldKind,
  columns: readonly string[],
): ChartField {
  if (kind !== "rows") return { key, label, section, kind, identity: false };
  const taken = new Set<string>();
  const made = columns.map((words) => {
    const own = keyFor(words, taken);
    taken.add(own);
    return { key: own, label: words };
  });
  return { key, label, section, kind, identity: false, matchOn: made[0]!.key, columns: made };
}
