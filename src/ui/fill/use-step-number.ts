import { startTransition, useCallback, useEffect, useState } from "react";

const readStep = (asked: string | null | undefined, count: number, start: number): number => {
  if (asked === undefined || asked === null) return start;
  const at = Number(asked) - 1;
  return Number.isInteger(at) && at >= 0 && at < count ? at : start;
};

/** Does it once what is on the page now was drawn. */
export const afterPaint = (work: () => void): void => {
  requestAnimationFrame(() => setTimeout(work));
};

/**
 * The step the client is at, 0-based and `start` where the address names none, kept in the address so that the
 * browser's back button works. Own state, not the router's: the router changes the address in its own time, and a press
 * on Next has to be seen at once.
 */
export function useStepNumber(count: number, first: string | undefined, start: number): [number, (to: number) => void] {
  const [at, setAt] = useState(() => readStep(first, count, start));
  useEffect(() => {
    const read = (): void => setAt(readStep(new URLSearchParams(window.location.search).get("s"), count, start));
    window.addEventListener("popstate", read);
    return () => window.removeEventListener("popstate", read);
  }, [count, start]);
  const go = useCallback((to: number): void => {
    // The press is seen before the next section is drawn, which takes a slow phone a moment.
    afterPaint(() => {
      const address = new URLSearchParams(window.location.search);
      const step = String(to + 1);
      // Pressed twice, it is one step, and one step back.
      if (address.get("s") !== step) {
        address.set("s", step);
        window.history.pushState(null, "", `?${address.toString()}`);
      }
      startTransition(() => setAt(to));
    });
  }, []);
  return [at, go];
}
