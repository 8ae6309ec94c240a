"use client";
import { useRouter } from "next/navigation";
import { useRef, useState, useTransition } from "react";
import type { Choice, Decision, RowValue } from "@/core/chart";
import type { SaveState } from "@/ui/kit/saver";
import { useAutosave } from "@/ui/kit/use-autosave";
import type { PartLine, ReconcileView } from "@/usecases/charting";
import { keepDecisionsAction } from "./actions";
import { startText } from "./reconcile-line";

export interface Decisions {
  /** What somebody decided, else what is suggested. */
  readonly choiceFor: (line: PartLine) => Choice | undefined;
  readonly choose: (lines: readonly PartLine[], choice: Choice) => void;
  /** What stands there when it is written by hand. */
  readonly editedOf: (line: PartLine) => string | RowValue;
  readonly edit: (line: PartLine, value: string | RowValue) => void;
  readonly redirects: Readonly<Record<string, string>>;
  /** @param field empty: where the plan sends it */
  readonly putElsewhere: (line: PartLine, field: string) => void;
  readonly state: SaveState;
  /** Everything as it is decided now; it is kept no more, for it is being posted. */
  readonly finish: () => Decision[];
}
/**
 * What is decided about a return. Left in the middle, it can be gone on with: what was decided by hand is kept, and not
 * what is suggested.
 */
export function useDecisions(view: ReconcileView): Decisions {
  const router = useRouter();
  const [chosen, setChosen] = useState<Readonly<Record<string, Choice>>>(() => choicesIn(view));
  const [edits, setEdits] = useState<Readonly<Record<string, string | RowValue>>>(() => editsIn(view));
  const [, startMoving] = useTransition();
  const redirects = view.draft?.redirects ?? {};
  const editedOf = (line: PartLine): string | RowValue => edits[line.id] ?? startText(line);
  const choiceFor = (line: PartLine): Choice | undefined => chosen[line.id] ?? line.suggested;
  const decisionsOf = (choice: (line: PartLine) => Choice | undefined): Decision[] =>
    view.lines.flatMap((line): Decision[] => {
      const made = choice(line);
      if (made === undefined) return [];
      return [{ line: line.id, choice: made, ...(made === "edit" ? { edited: editedOf(line) } : {}) }];
    });
  const own = { packetId: view.packetId, decisions: decisionsOf((line) => chosen[line.id]), redirects };
  const changed = useRef(false);
  const { state, touch } = useAutosave<typeof own>({
    take() {
      if (!changed.current) return undefined;
      changed.current = false;
      return own;
    },
    restore() {
      changed.current = true;
    },
    save: async (decided) => ((await keepDecisionsAction(decided)) ? "done" : "stop"),
  });
  const keep = (): void => {
    changed.current = true;
    touch();
  };
  return {
    choiceFor,
    editedOf,
    redirects,
    state,
    choose(lines, choice) {
      setChosen({ ...chosen, ...Object.fromEntries(lines.map((line) => [line.id, choice])) });
      keep();
    },
    edit(line, value) {
      setEdits({ ...edits, [line.id]: value });
      keep();
    },
    putElsewhere: (line, field) =>
      startMoving(async () => {
        const { [line.id]: _, ...others } = redirects;
        await keepDecisionsAction({ ...own, redirects: field === "" ? others : { ...others, [line.id]: field } });
        router.refresh();
      }),
    finish() {
      changed.current = false;
      return decisionsOf(choiceFor);
    },
  };
}
const choicesIn = ({ draft }: ReconcileView): Readonly<Record<string, Choice>> =>
  Object.fromEntries((draft?.decisions ?? []).map(({ line, choice }) => [line, choice]));
const editsIn = ({ draft }: ReconcileView): Readonly<Record<string, string | RowValue>> =>
  Object.fromEntries(
    (draft?.decisions ?? []).flatMap(({ line, edited }) => (edited === undefined ? [] : [[line, edited]])),
  );
