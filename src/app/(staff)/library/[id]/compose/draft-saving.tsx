"use client";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useRef, useState, type MouseEvent } from "react";
import styled from "styled-components";
import { writeQuestionnaire } from "@/core/fhir";
import type { Questionnaire } from "@/core/questionnaire";
import type { Instant } from "@/core/shared";
import { useAutosave } from "@/ui/kit/use-autosave";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { MarginRow } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import { SignedOut } from "../../../signed-out";
import { saveDraftAction } from "./actions";
import type { ComposerView } from "@/usecases/authoring";

/**
 * Saves the draft as it is written, each time from the revision it last saved; stops where somebody else saved in
 * between.
 */
export type DraftSaving = ReturnType<typeof useDraftSaving>;
export function useDraftSaving(view: ComposerView, questionnaire: Questionnaire) {
  const [savedAt, setSavedAt] = useState(view.savedAt);
  const [signedOut, setSignedOut] = useState(false);
  const [stopped, setStopped] = useState<{ readonly reason: string; readonly by?: string; readonly at?: Instant }>();
  const revision = useRef(view.revision);
  // Saves that got no reply: what is there may be one of them, and is ours then.
  const tried = useRef<readonly string[]>([]);
  const dirty = useRef<Questionnaire>(undefined);
  const { state, touch, flush } = useAutosave({
    take: () => {
      const d = dirty.current;
      dirty.current = undefined;
      return d;
    },
    restore: (d) => {
      dirty.current ??= d;
    },
    save: async (definition) => {
      const next = crypto.randomUUID();
      const sent = {
        id: view.id,
        revision: revision.current,
        tried: tried.current,
        version: view.version,
        next,
        fhir: writeQuestionnaire(definition),
      };
      tried.current = [...tried.current, next].slice(-100);
      const outcome = await saveDraftAction(sent);
      setSignedOut(!outcome.ok && outcome.reason === "signed-out");
      if (!outcome.ok && outcome.reason === "signed-out") return "again";
      if (!outcome.ok) {
        setStopped(outcome);
        return "stop";
      }
      revision.current = outcome.revision;
      tried.current = [];
      setSavedAt(outcome.savedAt);
      return "done";
    },
  });
  const first = useRef(questionnaire);
  useEffect(() => {
    if (questionnaire === first.current) return;
    first.current = questionnaire;
    dirty.current = questionnaire;
    touch();
  }, [questionnaire, touch]);
  return { state, savedAt, stopped, signedOut, flush };
}

/**
 * Follows a link once what was just typed is kept, so that the next page is made from it. Where it cannot be kept, the
 * page has said so.
 */
export function useLeave({ flush, stopped }: DraftSaving): (event: MouseEvent<HTMLAnchorElement>) => void {
  const router = useRouter();
  return useCallback(
    (event) => {
      if (event.metaKey || event.ctrlKey || event.shiftKey) return;
      event.preventDefault();
      const { pathname, search } = new URL(event.currentTarget.href);
      void flush().then((kept) => {
        if (kept || stopped) router.push(pathname + search);
      });
    },
    [flush, stopped, router],
  );
}

export function SaveState({
  state,
  savedAt,
}: {
  readonly state: DraftSaving["state"];
  readonly savedAt: DraftSaving["savedAt"];
}) {
  const words = () => {
    if (state === "saved") {
      if (savedAt)
        return (
          <>
            Saved <Moment at={savedAt} as="clock" />
          </>
        );
      return "Nothing changed yet";
    }
    if (state === "failed") return "Not saved yet, trying again";
    if (state === "stopped") return "Not saved";
    return "Saving…";
  };
  return <Saved role="status">{words()}</Saved>;
}

export function SavedElsewhere({ saving: { stopped, signedOut } }: { readonly saving: DraftSaving }) {
  if (signedOut)
    return (
      <MarginRow margin="Not saved yet">
        <SignedOut />
      </MarginRow>
    );
  if (!stopped) return null;
  return (
    <MarginRow margin="Not saved">
      <Notice tone="problem">
        {stopped.reason === "changed" ? (
          <>
            {stopped.by} changed this questionnaire
            {stopped.at ? (
              <>
                {" "}
                at <Moment at={stopped.at} as="clock" />
              </>
            ) : null}
            . Nothing of theirs was overwritten. What you wrote is still on this page:{" "}
            <Button weight="quiet" onPress={() => window.location.reload()}>
              load theirs
            </Button>{" "}
            when you have copied what you need.
          </>
        ) : (
          "This could not be saved. What you wrote is still on this page."
        )}
      </Notice>
    </MarginRow>
  );
}
const Saved = styled.span`
  color: var(--soft);
  font-size: var(--small);
  white-space: nowrap;
`;
