"use client";
import { useEffect, useState, useSyncExternalStore } from "react";
import { Saver, type SaverWork, type SaveState } from "./saver";

/** Saves as the page says, and when it is left, turned away from, or online again. */
export function useAutosave<T>(work: SaverWork<T>): {
  readonly state: SaveState;
  readonly touch: () => void;
  readonly flush: () => Promise<boolean>;
} {
  const [saver] = useState(() => new Saver<T>(work));
  useEffect(() => saver.use(work));
  useSaveOnLeaving(saver);
  const state = useSyncExternalStore(saver.subscribe, saver.getSnapshot, saver.getSnapshot);
  return { state, touch: saver.touch, flush: saver.flush };
}

/** Leaving the page, turning to another app or coming online: what is there is sent now. */
export function useSaveOnLeaving({ flush, isIdle }: { flush: () => Promise<boolean>; isIdle: () => boolean }): void {
  useEffect(() => {
    const leave = (): void => {
      if (document.visibilityState === "hidden") void flush();
    };
    const warn = (event: BeforeUnloadEvent): void => {
      if (isIdle()) return;
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
      // Going to another of our pages: what waits is sent, not dropped.
      void flush();
    };
  }, [flush, isIdle]);
}
