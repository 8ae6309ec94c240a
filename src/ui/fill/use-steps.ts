import { useEffect, useMemo, useRef, useState, type RefObject } from "react";
import type { Id } from "@/core/shared";
import { signaturePlaces } from "@/core/signing";
import type { FillPart } from "@/usecases/filling";
import type { PacketView } from "./fill-server";
import { jumpTo } from "./jump-to";
import { isEmptyStep } from "./page-look";
import { keysIn, placedIn, problemsIn, stepsOf, type Step } from "./steps";
import { useStepNumber } from "./use-step-number";

/** Of a packet that was sent back, the pages on which something is open; for who only reads, the last. */
function stepsFor(view: PacketView): readonly Step[] {
  const { parts, oneByOne, sentBack, role, signsAs } = view;
  const all = stepsOf(parts, oneByOne).filter(
    (step) =>
      step.kind !== "sign" ||
      signaturePlaces(
        parts.find((part) => part.id === step.part)!.questionnaire,
        signsAs === undefined ? undefined : [signsAs],
      ).includes(step.place),
  );
  if (role === "reads") return all.filter((step) => step.kind === "review");
  if (!sentBack) return all;
  return all.filter((step) => {
    const own = step.kind === "section" ? parts.find((part) => part.id === step.part) : undefined;
    if (step.kind !== "section" || !own) return true;
    const keys = keysIn(placedIn(own.questionnaire, own.answers, step.section));
    return keys.some((key) => sentBack.some((line) => line.partId === own.id && line.key === key));
  });
}
/**
 * Where somebody who comes back goes on: the last page they answered on, or when that is complete, the next that asks
 * something. 0 where nothing was answered.
 */
export function whereStopped(steps: readonly Step[], parts: readonly FillPart[], view: PacketView): number {
  const partAt = (index: number): FillPart | undefined => {
    const step = steps[index];
    return !step || step.kind === "review" ? undefined : parts.find((part) => part.id === step.part);
  };
  const isAnswered = (step: Step, index: number): boolean => {
    const part = partAt(index);
    if (!part || step.kind === "review") return false;
    if (step.kind === "sign") return part.signed[step.place] !== undefined;
    return keysIn(placedIn(part.questionnaire, part.answers, step.section)).some(
      (key) => (part.answers.values[key] ?? []).length > 0 && !part.prefilled.includes(key),
    );
  };
  const last = steps.findLastIndex(isAnswered);
  if (last < 0) return 0;
  const step = steps[last]!;
  const part = partAt(last);
  if (step.kind === "section" && part && problemsIn(part.questionnaire, part.answers, step.section).length > 0)
    return last;
  const next = steps.findIndex((s, index) => index > last && !isEmptyStep(s, partAt(index), view));
  return next < 0 ? last : next;
}
export interface Steps {
  readonly steps: readonly Step[];
  readonly at: number;
  readonly step: Step;
  /** The questionnaire the step belongs to; none for the review. */
  readonly part: FillPart | undefined;
  readonly go: (to: number) => void;
  /** To a question on a step. */
  readonly goTo: (to: number, part: Id<"Part">, key: string) => void;
  /** To the next step or the one before that asks something. */
  readonly move: (by: 1 | -1) => void;
  /** The page's heading: it takes the focus on each step. */
  readonly top: RefObject<HTMLHeadingElement | null>;
}
export function useSteps(
  view: PacketView,
  parts: readonly FillPart[],
  first: string | undefined,
  embedded: boolean,
): Steps {
  const steps = useMemo(() => stepsFor(view), [view]);
  const [stopped] = useState(() => (embedded || view.sentBack ? 0 : whereStopped(steps, parts, view)));
  const [at, go] = useStepNumber(steps.length, first, stopped);
  const top = useRef<HTMLHeadingElement>(null);
  const sought = useRef<{ readonly part: Id<"Part">; readonly key: string }>(undefined);
  useEffect(() => {
    if (!embedded) window.scrollTo(0, 0);
    top.current?.focus({ preventScroll: true });
    const { current } = sought;
    sought.current = undefined;
    if (current) requestAnimationFrame(() => jumpTo({ id: current.part }, current.key));
  }, [at, embedded]);
  const goTo = (to: number, part: Id<"Part">, key: string): void => {
    sought.current = { part, key };
    go(to);
  };
  const partOf = (step: Step): FillPart | undefined =>
    step.kind === "review" ? undefined : parts.find((part) => part.id === step.part);
  const move = (by: 1 | -1): void => {
    let to = at + by;
    while (to > 0 && to < steps.length - 1 && isEmptyStep(steps[to]!, partOf(steps[to]!), view)) to += by;
    if (to >= 0 && to < steps.length) go(to);
  };
  const step = steps[at]!;
  return { steps, at, step, part: partOf(step), go, goTo, move, top };
}
