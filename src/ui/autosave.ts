"use client";
import { startTransition, useCallback, useEffect, useRef, useState } from "react";

export type SaveState = "saved" | "waiting" | "saving" | "failed" | "stopped";

/**
 * Saves what is pending a moment after the last change, one save at a time, and again until it works.
 * `save` takes a snapshot of what is pending and answers: done, again (try later), or stop (it can never work).
 */
export function useAutosave<T>({
  take,
  restore: giveBack,
  save,
  delay = 800,
  retry = 3000,
}: {
  readonly take: () => T | undefined;
  /** Puts an unsaved snapshot back; newer typing wins. */
  readonly restore: (snapshot: T) => void;
  readonly save: (snapshot: T) => Promise<"done" | "again" | "stop">;
  readonly delay?: number;
  readonly retry?: number;
}): {
  readonly state: SaveState;
  readonly touch: () => void;
  readonly flush: () => Promise<boolean>;
  /** The last save can never work: as of now, where `state` is as it was drawn. */
  readonly isStopped: () => boolean;
} {
  const [state, setState] = useState<SaveState>("saved");
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const running = useRef<Promise<boolean> | undefined>(undefined);
  const pending = useRef(false);
  const stopped = useRef(false);
  const parts = useRef({ take, giveBack, save });
  const again = useRef<() => void>(() => undefined);
  useEffect(() => {
    parts.current = { take, giveBack, save };
  });

  const flush = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    // Every caller waits for the save under way, so that "flushed" means kept, not merely on its way.
    while (running.current) await running.current;
    pending.current = false;
    const snapshot = parts.current.take();
    if (snapshot === undefined) return true;
    startTransition(() => setState("saving"));
    running.current = (async () => {
      const outcome = await parts.current.save(snapshot).catch(() => "again" as const);
      stopped.current = outcome === "stop";
      if (outcome === "done") {
        setState(pending.current ? "waiting" : "saved");
        return true;
      }
      parts.current.giveBack(snapshot);
      pending.current = true;
      setState(outcome === "stop" ? "stopped" : "failed");
      if (outcome === "again") timer.current = setTimeout(() => again.current(), retry);
      return false;
    })();
    const done = await running.current;
    running.current = undefined;
    return done;
  }, [retry]);

  useEffect(() => {
    again.current = () => void flush();
  }, [flush]);

  const touch = useCallback(() => {
    pending.current = true;
    setState("waiting");
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void flush(), delay);
  }, [delay, flush]);

  useEffect(() => {
    // Leaving the page or turning to another app: send what is there now.
    const leave = (): void => {
      if (document.visibilityState === "hidden") void flush();
    };
    const warn = (event: BeforeUnloadEvent): void => {
      if (!pending.current && running.current === undefined) return;
      void flush();
      event.preventDefault();
    };
    const online = (): void => void flush();
    document.addEventListener("visibilitychange", leave);
    window.addEventListener("beforeunload", warn);
    window.addEventListener("online", online);
    return () => {
      document.removeEventListener("visibilitychange", leave);
      window.removeEventListener("beforeunload", warn);
      window.removeEventListener("online", online);
    };
  }, [flush]);
  // Going to another of our pages: what waits is sent, not dropped.
  useEffect(
    () => () => {
      void flush();
    },
    [flush],
  );

  return { state, touch, flush, isStopped: useCallback(() => stopped.current, []) };
}
