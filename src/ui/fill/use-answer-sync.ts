import { useEffect, useState, useSyncExternalStore } from "react";
import { useSaveOnLeaving } from "@/ui/kit/use-autosave";
import { AnswerSync, type AnswerSnapshot } from "./answer-sync";
import type { FillServer, PacketView } from "./fill-server";

const sharedEvery = 4000;

/** One answer sync for as long as the page stands. */
export function useAnswerSync(server: FillServer, view: PacketView, onOver: (() => void) | undefined): AnswerSync {
  const [sync] = useState(
    () =>
      new AnswerSync({
        transport: server,
        parts: view.parts,
        ...(view.twins ? { twins: view.twins } : {}),
        ...(onOver ? { onOver } : {}),
      }),
  );
  useEffect(() => sync.use(server, onOver), [sync, server, onOver]);
  useSaveOnLeaving(sync.saver);
  useEffect(() => void sync.readKept(), [sync]);
  const shared = view.shared === true;
  // What others write: looked for often where several people have one copy, else when the page is turned to again.
  useEffect(() => {
    const look = (): void => {
      if (document.visibilityState === "visible") void sync.look();
    };
    const timer = shared ? setInterval(look, sharedEvery) : undefined;
    document.addEventListener("visibilitychange", look);
    if (shared) look();
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", look);
    };
  }, [sync, shared]);
  return sync;
}

/** One piece of what is known, drawn anew only when that piece changes. */
export function useAnswers<Key extends keyof AnswerSnapshot>(sync: AnswerSync, key: Key): AnswerSnapshot[Key] {
  const read = (): AnswerSnapshot[Key] => sync.getSnapshot()[key];
  return useSyncExternalStore(sync.subscribe, read, read);
}
export const useSaveState = ({ saver }: AnswerSync) =>
  useSyncExternalStore(saver.subscribe, saver.getSnapshot, saver.getSnapshot);
