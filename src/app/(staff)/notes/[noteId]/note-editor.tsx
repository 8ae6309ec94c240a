"use client";
import { Link } from "@/ui/link";
import { useRef, useState } from "react";
import styled from "styled-components";
import type { NoteBlock, QuotedAnswer } from "@/core/notes";
import type { Id, Instant } from "@/core/shared";
import { useAutosave } from "@/ui/use-autosave";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/fields";
import { Notice } from "@/ui/notice";
import { Cluster, MarginRow, Page, Soft } from "@/ui/page";
import { Moment } from "@/ui/time";
import { saveNoteAction } from "./actions";

export interface NoteEditorProps {
  readonly note: {
    readonly id: Id<"Note">;
    readonly clientId: Id<"Client">;
    readonly clientName: string;
    readonly layout: string;
    readonly author: string;
    readonly revision: number;
    readonly updatedAt: Instant;
    readonly visit:
      { readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string } | undefined;
    readonly blocks: readonly NoteBlock[];
  };
}
const keyOf = (b: QuotedAnswer): string => `${b.partId} ${b.key}`;

export function NoteEditor({ note }: NoteEditorProps) {
  const [texts, setTexts] = useState<Readonly<Record<string, string>>>(() =>
    Object.fromEntries(note.blocks.flatMap((b) => (b.kind === "own" ? [[b.id, b.text]] : []))),
  );
  const [removed, setRemoved] = useState<readonly string[]>([]);
  const [savedAt, setSavedAt] = useState(note.updatedAt);
  const [stopped, setStopped] = useState<string>();
  const dirty = useRef<{ texts: Readonly<Record<string, string>>; removed: readonly string[] }>(undefined);
  const revision = useRef(note.revision);

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
      const outcome = await saveNoteAction({
        noteId: note.id,
        revision: revision.current,
        own: Object.entries(definition.texts).map(([id, text]) => ({ id, text })),
        removed: definition.removed,
      });
      if (outcome.ok) {
        revision.current = outcome.revision;
        setSavedAt(outcome.savedAt);
        return "done";
      }
      setStopped(outcome.reason);
      return "stop";
    },
  });
  const change = (next: { texts?: Readonly<Record<string, string>>; removed?: readonly string[] }): void => {
    const now = { texts: next.texts ?? texts, removed: next.removed ?? removed };
    setTexts(now.texts);
    setRemoved(now.removed);
    dirty.current = now;
    touch();
  };
  const quotes = note.blocks.filter((b): b is QuotedAnswer => b.kind === "quoted");
  const savedWords = () => {
    if (state === "saved")
      return (
        <>
          Saved <Moment at={savedAt} as="clock" />
        </>
      );
    if (state === "failed") return "Not saved yet, trying again";
    if (state === "stopped") return "Not saved";
    return "Saving…";
  };
  return (
    <Page
      title={
        <>
          Note for <bdi>{note.clientName}</bdi>
        </>
      }
      margin={
        <>
          {note.visit ? (
            <>
              <Moment at={note.visit.startsAt} />
              <br />
              {note.visit.visitType}
              <br />
            </>
          ) : null}
          {note.author}
        </>
      }
      actions={
        <Cluster>
          <SavedWords role="status">{savedWords()}</SavedWords>
          <Link href={`/people/${note.clientId}`}>Chart</Link>
        </Cluster>
      }
    >
      {stopped && (
        <MarginRow margin="Not saved">
          <Notice tone="problem">
            {stopped === "note-moved"
              ? "Somebody else saved this note since you opened it. What you typed is still here: copy it, load the page again, and put it in."
              : "This could not be saved. What you typed is still here: copy it before you leave."}
          </Notice>
        </MarginRow>
      )}
      {note.blocks.map((block, index) => {
        if (block.kind === "own")
          return (
            <MarginRow key={block.id} margin={<Whose $tone="--plum">Your words</Whose>}>
              <TextField
                label={<Heading>{block.heading}</Heading>}
                help={block.prompt}
                long
                value={texts[block.id] ?? ""}
                onChange={(v) => change({ texts: { ...texts, [block.id]: v } })}
                onBlur={() => void flush()}
                maxLength={50_000}
              />
            </MarginRow>
          );
        if (removed.includes(keyOf(block))) return null;
        const before = note.blocks[index - 1];
        const first = before?.kind !== "quoted" || before.questionnaire !== block.questionnaire;
        return (
          <Quote key={keyOf(block)}>
            <MarginRow
              margin={
                <>
                  <Whose $tone="--fern">{quotes[0] === block || first ? "Their words" : ""}</Whose>
                  {first ? <div>{block.questionnaire}</div> : null}
                </>
              }
            >
              <QuoteLine>
                <div>
                  <Asked>{block.question}</Asked>
                  <Said dir="auto">{block.answer === "" ? <Soft>Not answered</Soft> : block.answer}</Said>
                </div>
                <Button
                  weight="quiet"
                  aria-label={`Take out: ${block.question}`}
                  onPress={() => change({ removed: [...removed, keyOf(block)] })}
                >
                  Take out
                </Button>
              </QuoteLine>
            </MarginRow>
          </Quote>
        );
      })}
      {removed.length > 0 && (
        <MarginRow margin="">
          <Cluster>
            <Soft>{removed.length} taken out of this note; the answers themselves stay.</Soft>
            {state !== "saved" && (
              <Button weight="quiet" onPress={() => change({ removed: [] })}>
                Put back
              </Button>
            )}
          </Cluster>
        </MarginRow>
      )}
    </Page>
  );
}
const SavedWords = styled.span`
  color: var(--soft);
  font-size: 0.94rem;
`;
const Whose = styled.div<{ $tone: string }>`
  color: var(${({ $tone }) => $tone});
  font-weight: 600;
`;
const Heading = styled.span`
  font: 600 1.1rem/1.3 var(--serif);
`;
const Quote = styled.div`
  background: var(--fern-wash);
  & > div > :first-child {
    padding-inline-start: 0.6rem;
  }
`;
const QuoteLine = styled.div`
  display: flex;
  gap: 0.5rem 1rem;
  justify-content: space-between;
  align-items: flex-start;
  & > :first-child {
    flex: 1;
    min-width: 0;
  }
  & > button {
    flex: none;
  }
`;
const Asked = styled.div`
  color: var(--soft);
  font-size: 0.94rem;
`;
const Said = styled.div`
  white-space: pre-wrap;
  font: 500 1.06rem/1.5 var(--serif);
`;
