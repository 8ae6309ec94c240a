import { useEffect, useMemo, useRef, type RefObject } from "react";
import type { FillPart } from "@/usecases/filling";
import type { PacketView } from "./fill-server";
import { isEmptyStep } from "./page-look";
import { keysIn, placedIn, stepsOf, type Step } from "./steps";
import { useStepNumber } from "./use-step-number";

/** Of a packet that was sent back, the pages on which something is open; for who only reads, the last. */
function stepsFor(view: PacketView): readonly Step[] {
  const { parts, oneByOne, sentBack, role } = view;
  const all = stepsOf(parts, oneByOne);
  if (role === "reads") return all.filter((step) => step.kind === "review");
  if (!sentBack) return all;
  return all.filter((step) => {
    const own = step.kind === "section" ? parts.find((part) => part.id === step.part) : undefined;
    if (step.kind !== "section" || !own) return true;
    const keys = keysIn(placedIn(own.questionnaire, own.answers, step.section));
    return keys.some((key) => sentBack.some((line) => line.partId === own.id && line.key === key));
  });
}
export interface Steps {
  readonly steps: readonly Step[];
  readonly at: number;
  readonly step: Step;
  /** The questionnaire the step belongs to; none for the review. */
  readonly part: FillPart | undefined;
  readonly go: (to: number) => void;
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
  const [at, go] = useStepNumber(steps.length, first);
  const top = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (!embedded) window.scrollTo(0, 0);
    top.current?.focus({ preventScroll: true });
  }, [at, embedded]);
  const partOf = (step: Step): FillPart | undefined =>
    step.kind === "review" ? undefined : parts.find((part) => part.id === step.part);
  const move = (by: 1 | -1): void => {
    let to = at + by;
    while (to > 0 && to < steps.length - 1 && isEmptyStep(steps[to]!, partOf(steps[to]!), view)) to += by;
    if (to >= 0 && to < steps.length) go(to);
  };
  const step = steps[at]!;
  return { steps, at, step, part: partOf(step), go, move, top };
}
