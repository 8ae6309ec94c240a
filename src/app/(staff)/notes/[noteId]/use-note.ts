"use client";
import type { Editor, JSONContent } from "@tiptap/core";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useRef, useState } from "react";
import { useAutosave } from "@/ui/kit/use-autosave";
import type { NoteDesk, NoteView } from "@/usecases/notes";
import type { NoteStanding } from "./note-standing";
import { atNoteAction, saveNoteAction, takeTheirsAction } from "./actions";

interface Written {
  readonly body: JSONContent;
  readonly takeHome: JSONContent;
}
/** The editor's objects have no prototype, which an action is not sent. */
const plainJson = (editor: Editor): JSONContent => JSON.parse(JSON.stringify(editor.getJSON())) as JSONContent;
const every = 8000;

/** What is written in a note: saved as it is typed, and somebody else's saving told before anything is lost. */
export function useNote(note: NoteView, standing: NoteStanding) {
  const router = useRouter();
  const [savedAt, setSavedAt] = useState(note.updatedAt);
  const [trouble, setTrouble] = useState<string>();
  const [desk, setDesk] = useState<NoteDesk>();
  const changed = useRef(false);
  const editors = useRef<{ body?: Editor; takeHome?: Editor }>({});
  const written = useCallback((): Written | undefined => {
    const { body, takeHome } = editors.current;
    return body && takeHome && { body: plainJson(body), takeHome: plainJson(takeHome) };
  }, []);
  const { state, touch, flush } = useAutosave<Written>({
    take() {
      if (!changed.current) return undefined;
      changed.current = false;
      return written();
    },
    restore() {
      changed.current = true;
    },
    save: async (now) => {
      const outcome = await saveNoteAction({
        noteId: note.id,
        revision: standing.revision(),
        ...now,
        ...(standing.isOver() ? { over: true } : {}),
      });
      setTrouble(outcome.ok ? undefined : outcome.reason);
      if (outcome.ok) {
        standing.kept(outcome.revision, changed.current);
        setSavedAt(outcome.savedAt);
        return "done";
      }
      return outcome.reason === "signed-out" || outcome.reason === "busy" ? "again" : "stop";
    },
  });
  const change = useCallback((): void => {
    changed.current = true;
    standing.type();
    touch();
  }, [touch, standing]);
  const page = useRef<string>(undefined);
  useEffect(() => {
    page.current ??= crypto.randomUUID();
    const own = page.current;
    const look = async (): Promise<void> => {
      const found = await atNoteAction({ noteId: note.id, page: own }).catch(() => undefined);
      if (!found) return;
      setDesk(found);
      // Somebody saved or signed, and nothing of one's own waits: it is shown as it stands now.
      if (!standing.isDirty() && (found.revision > standing.revision() || found.signed)) router.refresh();
    };
    const first = setTimeout(() => void look());
    const timer = setInterval(() => void look(), every);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
      void atNoteAction({ noteId: note.id, page: own, leaving: true }).catch(() => undefined);
    };
  }, [note.id, router, standing]);
  /** Saves over what somebody else saved; theirs stays in the history. */
  const keepMine = async (): Promise<void> => {
    const found = await atNoteAction({ noteId: note.id, page: page.current! });
    if (!found) return;
    standing.goOver(found.revision);
    changed.current = true;
    await flush();
  };
  /** Shows what somebody else saved; one's own stays in the history. */
  const takeTheirs = async (): Promise<void> => {
    const found = await atNoteAction({ noteId: note.id, page: page.current! });
    const mine = written();
    if (!found || !mine) return;
    changed.current = false;
    standing.giveUp();
    await takeTheirsAction({ noteId: note.id, revision: found.revision, ...mine });
    router.refresh();
  };
  const holds = useCallback((which: "body" | "takeHome", editor: Editor): void => {
    editors.current[which] = editor;
  }, []);
  return { holds, change, state, savedAt, trouble, desk, flush, keepMine, takeTheirs };
}
