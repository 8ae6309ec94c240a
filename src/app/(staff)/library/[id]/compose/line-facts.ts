import { useMemo } from "react";
import { fieldByKey } from "@/core/chart";
import type { ProofReport } from "@/core/proof";
import {
  allItems,
  isQuestion,
  shownWhenWords,
  type Item,
  type Question,
  type Questionnaire,
} from "@/core/questionnaire";
import type { PracticeFields } from "./chart-fields";
import type { LineFacts } from "./outline-row";

/** What decides about a line, in its margin: its own conditions, and how many of its options have some. */
function whenWords(item: Item, questions: ReadonlyMap<string, Question>): string | undefined {
  const said = shownWhenWords(item, questions);
  const own = said && `when ${said}`;
  const ruled = isQuestion(item) ? item.options.filter((o) => o.shownWhen).length : 0;
  const ruledWords = () => {
    if (ruled === 0) return undefined;
    if (ruled === 1) return "one option only for some";
    return `${ruled} options only for some`;
  };
  return [own, ruledWords()].filter(Boolean).join("; ") || undefined;
}

/** What stands in the margin of each line: what decides about it, where its answer goes, what Proof found. */
export function useLineFacts(
  settled: Questionnaire,
  settledKeys: ReadonlyMap<string, Question>,
  report: ProofReport | undefined,
  fields: PracticeFields,
): ReadonlyMap<string, LineFacts> {
  const found = useMemo(() => {
    const out = new Map<string, { words: string; error: boolean }>();
    for (const finding of report?.findings ?? [])
      if (finding.linkId !== undefined && !out.has(finding.linkId))
        out.set(finding.linkId, { words: finding.message, error: finding.level === "error" });
    return out;
  }, [report]);

  return useMemo(
    () =>
      new Map(
        allItems(settled).map((item): [string, LineFacts] => {
          const posting = item.type === "display" ? undefined : item.posting;
          const finding = found.get(item.linkId);
          return [
            item.linkId,
            {
              when: whenWords(item, settledKeys),
              goesTo: posting && (fieldByKey(posting.field, fields.all)?.label ?? posting.field),
              findings: finding?.words ?? "",
              isError: finding?.error ?? false,
            },
          ];
        }),
      ),
    [settled, settledKeys, found, fields],
  );
}
