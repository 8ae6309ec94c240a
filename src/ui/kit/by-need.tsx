"use client";
import { lazy, Suspense, type ComponentType, type ReactNode } from "react";

/**
 * A part that is loaded when it is first drawn, or earlier by `preload`. On a line that is down it waits for the line: the
 * page around it stays, with `fallback` in its place.
 */
export function byNeed<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  fallback: ReactNode = <span aria-busy="true">…</span>,
): ComponentType<Props> & { preload(): void } {
  let begun: Promise<{ default: ComponentType<Props> }> | undefined;
  const once = (): Promise<{ default: ComponentType<Props> }> =>
    (begun ??= untilLoaded(load).then((part) => ({ default: part })));
  const Part = lazy(once);
  return Object.assign(
    (props: Props) => (
      <Suspense fallback={fallback}>
        <Part {...props} />
      </Suspense>
    ),
    { preload: () => void once() },
  );
}
const pause = 3000;
/** Asks again until the line brings it. `onLost` hears of each time it did not; it rejects where that throws. */
export async function untilLoaded<Part>(load: () => Promise<Part>, onLost?: () => void): Promise<Part> {
  for (;;) {
    try {
      return await load();
    } catch (error) {
      if (typeof window === "undefined") throw error;
      onLost?.();
      await new Promise<void>((resolve) => {
        setTimeout(resolve, pause);
        window.addEventListener("online", () => resolve(), { once: true });
      });
    }
  }
}
