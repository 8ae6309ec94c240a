"use client";
import { useEffect, useRef, useState } from "react";
import type { Id } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page, Stack } from "@/ui/kit/page";
import { Progress } from "@/ui/kit/progress";
import { takeFramed } from "./take-framed";

export interface EverythingViewProps {
  readonly clientId: Id<"Client">;
  readonly name: string;
  readonly mayTakeOut: boolean;
}
type State =
  | { readonly kind: "idle" | "failed" }
  | { readonly kind: "making"; readonly done: number; readonly all: number }
  | { readonly kind: "ready"; readonly href: string; readonly bytes: number };

/** The answer to "what do you have about me": one file with all of it. */
export function EverythingView({ clientId, name, mayTakeOut }: EverythingViewProps) {
  const [state, setState] = useState<State>({ kind: "idle" });
  const gone = useRef<AbortController>(undefined);
  useEffect(() => () => gone.current?.abort(), []);
  const make = async (): Promise<void> => {
    const stop = new AbortController();
    gone.current = stop;
    setState({ kind: "making", done: 0, all: 1 });
    try {
      const response = await fetch(`/api/people/${clientId}/everything.zip?progress`, { signal: stop.signal });
      if (!response.ok || !response.body) throw new Error("It was refused.");
      const file = await takeFramed(response.body, (done, all) => setState({ kind: "making", done, all }));
      setState({ kind: "ready", href: URL.createObjectURL(file), bytes: file.size });
    } catch {
      if (!stop.signal.aborted) setState({ kind: "failed" });
    }
  };
  return (
    <Page
      title={
        <>
          Everything about <bdi>{name}</bdi>
        </>
      }
      margin={<Link href={`/people/${clientId}/reach`}>Details</Link>}
    >
      <MarginRow margin="What is in it">
        A page-by-page PDF of who they are, the chart with its past, visits, notes and letters; each questionnaire as it
        was answered; files they gave; the same for other programs (FHIR R4); and what the journal says about them.
      </MarginRow>
      <MarginRow margin="One file">
        <Stack $gap="0.75rem">
          {!mayTakeOut && <span>Your role may not take this out.</span>}
          {mayTakeOut && state.kind !== "ready" && (
            <div>
              <Button weight="primary" isDisabled={state.kind === "making"} onPress={() => void make()}>
                {state.kind === "failed" ? "Try again" : "Make the file"}
              </Button>
            </div>
          )}
          {state.kind === "making" && <Progress label="Made so far" done={state.done} all={state.all} />}
          <div role="status">
            {state.kind === "failed" && (
              <Notice tone="problem">The file could not be made to its end. Nothing was kept of it; try again.</Notice>
            )}
            {state.kind === "ready" && (
              <Notice tone="settled">
                <a href={state.href} download="everything.zip">
                  Save the file
                </a>{" "}
                ({Math.max(1, Math.round(state.bytes / 1024))} KB). It holds health data in clear: hand it over only to
                whom it is for. It is kept nowhere here.
              </Notice>
            )}
          </div>
        </Stack>
      </MarginRow>
    </Page>
  );
}
