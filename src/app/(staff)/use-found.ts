"use client";
import { useEffect, useEffectEvent, useState } from "react";
import { untilLoaded } from "@/ui/kit/by-need";

export interface Found<Answer> {
  /** For what is asked now, or while that is looked up, for what was asked last. */
  readonly answer: Answer | undefined;
  /** The answer is for what is asked now. */
  readonly settled: boolean;
  readonly unreachable: boolean;
}
/** While somebody types, each letter asks nothing yet. */
const pauseMs = 120;

/**
 * Asks the server while somebody types or chooses: once they pause, and again where the line was down; an answer to an
 * earlier question is never taken for one to this. An answer of nothing is that it cannot be looked up. @param first what the page came with, for the first question
 */
export function useFound<Asked, Answer>(
  asked: Asked,
  ask: (asked: Asked) => Promise<Answer | undefined>,
  first?: Answer,
): Found<Answer> {
  const key = JSON.stringify(asked);
  const [held, setHeld] = useState<{ readonly key: string; readonly answer: Answer } | undefined>(
    first === undefined ? undefined : { key, answer: first },
  );
  const [unreachable, setUnreachable] = useState(false);
  const askNow = useEffectEvent(() => ask(asked));
  const isHere = held?.key === key;
  useEffect(() => {
    if (isHere) return;
    const gone = new AbortController();
    const timer = setTimeout(() => {
      untilLoaded(askNow, () => {
        gone.signal.throwIfAborted();
        setUnreachable(true);
      }).then(
        (answer) => {
          if (gone.signal.aborted) return;
          setUnreachable(answer === undefined);
          if (answer !== undefined) setHeld({ key, answer });
        },
        () => undefined,
      );
    }, pauseMs);
    return () => {
      gone.abort();
      clearTimeout(timer);
    };
  }, [key, isHere]);
  return { answer: held?.answer, settled: isHere, unreachable };
}
