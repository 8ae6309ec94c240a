"use client";
import { useRef, useState } from "react";
import styled from "styled-components";
import type { NoteBlock, OwnWords, QuotedAnswer } from "@/core/notes";
import { Button } from "@/ui/kit/button";
import { TextField } from "@/ui/kit/text-field";
import { Answers, onLine } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Page, Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import { useAutosave } from "@/ui/kit/use-autosave";
import type { NoteView } from "@/usecases/notes";
import { SignedOut } from "../../signed-out";
import { saveNoteAction } from "./actions";

const keyOf = (quote: QuotedAnswer): string => `${quote.partId} ${quote.key}`;
interface Written {
  readonly texts: Readonly<Record<string, string>>;
  readonly removed: readonly string[];
}

/** The client's words, quoted, among the practitioner's own; saved as it is written. */
export function NoteEditor({ note }: { readonly note: NoteView }) {
  const { texts, removed, change, state, savedAt, stopped, signedOut, flush } = useNote(note);
  const savedWords = () => {
    if (state === "saved")
      return (
        <>
          Saved <Moment at={savedAt} as="clock" />
        </>
      );
    if (state === "failed") return "Not saved yet, trying again";
    return state === "stopped" ? "Not saved" : "Saving…";
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
              <Moment at={note.visit.startsAt} />, {note.visit.visitType},{" "}
            </>
          ) : null}
          {note.author}
          {note.changedBy !== undefined && <>, changed by {note.changedBy}</>}
          <br />
          <span role="status">{savedWords()}</span>
        </>
      }
      actions={<Link href={`/people/${note.clientId}`}>Chart</Link>}
    >
      {signedOut && <SignedOut />}
      {stopped && (
        <Notice tone="problem">
          {stopped === "note-moved"
            ? "Somebody else saved this note since you opened it. What you typed is still here: copy it, load the page again, and put it in."
            : "This could not be saved. What you typed is still here: copy it before you leave."}
        </Notice>
      )}
      <Sheet>
        {runsOf(note.blocks, removed).map((run) =>
          run.kind === "own" ? (
            <Own
              key={run.block.id}
              block={run.block}
              text={texts[run.block.id] ?? ""}
              onChange={(text) => change({ texts: { ...texts, [run.block.id]: text } })}
              onBlur={() => void flush()}
            />
          ) : (
            <Quotes
              key={keyOf(run.quotes[0]!)}
              quotes={run.quotes}
              takeOut={(quote) => change({ removed: [...removed, keyOf(quote)] })}
            />
          ),
        )}
      </Sheet>
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

function useNote(note: NoteView) {
  const [written, setWritten] = useState<Written>(() => ({
    texts: Object.fromEntries(note.blocks.flatMap((b) => (b.kind === "own" ? [[b.id, b.text]] : []))),
    removed: [],
  }));
  const [savedAt, setSavedAt] = useState(note.updatedAt);
  const [signedOut, setSignedOut] = useState(false);
  const [stopped, setStopped] = useState<string>();
  const dirty = useRef<Written>(undefined);
  const revision = useRef(note.revision);
  const { state, touch, flush } = useAutosave<Written>({
    take: () => {
      const taken = dirty.current;
      dirty.current = undefined;
      return taken;
    },
    restore: (taken) => {
      dirty.current ??= taken;
    },
    save: async ({ texts, removed }) => {
      const own = Object.entries(texts).map(([id, text]) => ({ id, text }));
      const outcome = await saveNoteAction({ noteId: note.id, revision: revision.current, own, removed });
      setSignedOut(!outcome.ok && outcome.reason === "signed-out");
      if (!outcome.ok && outcome.reason === "signed-out") return "again";
      if (!outcome.ok) {
        setStopped(outcome.reason);
        return "stop";
      }
      revision.current = outcome.revision;
      setSavedAt(outcome.savedAt);
      return "done";
    },
  });
  const change = (next: Partial<Written>): void => {
    const now = { ...written, ...next };
    setWritten(now);
    dirty.current = now;
    touch();
  };
  return { ...written, change, state, savedAt, stopped, signedOut, flush };
}

type Run =
  | { readonly kind: "own"; readonly block: OwnWords }
  | { readonly kind: "quotes"; readonly quotes: readonly QuotedAnswer[] };
/** Quoted answers of one questionnaire that stand together are one run: whose words they are is said once. */
function runsOf(blocks: readonly NoteBlock[], removed: readonly string[]): Run[] {
  const runs: Run[] = [];
  for (const block of blocks) {
    if (block.kind === "own") {
      runs.push({ kind: "own", block });
      continue;
    }
    if (removed.includes(keyOf(block))) continue;
    const last = runs.at(-1);
    if (last?.kind === "quotes" && last.quotes[0]?.questionnaire === block.questionnaire)
      runs[runs.length - 1] = { kind: "quotes", quotes: [...last.quotes, block] };
    else runs.push({ kind: "quotes", quotes: [block] });
  }
  return runs;
}

interface OwnProps {
  readonly block: OwnWords;
  readonly text: string;
  readonly onChange: (text: string) => void;
  readonly onBlur: () => void;
}
function Own({ block, text, onChange, onBlur }: OwnProps) {
  return (
    <MarginRow margin={<Whose $tone="--plum">Yours</Whose>}>
      <TextField
        label={<Heading>{block.heading}</Heading>}
        placeholder={block.prompt}
        long
        value={text}
        onChange={onChange}
        onBlur={onBlur}
        maxLength={50_000}
      />
    </MarginRow>
  );
}
interface QuotesProps {
  readonly quotes: readonly QuotedAnswer[];
  readonly takeOut: (quote: QuotedAnswer) => void;
}
function Quotes({ quotes, takeOut }: QuotesProps) {
  return (
    <Quoted>
      <MarginRow
        margin={
          <>
            <Whose $tone="--fern">Their words</Whose>
            {quotes[0]?.questionnaire}
          </>
        }
      >
        <Answers>
          {quotes.map((quote) => (
            <div key={keyOf(quote)}>
              <dt>{quote.question}</dt>
              <dd>
                <QuoteLine>
                  <Said dir="auto">
                    {quote.answer === "" ? <NotAnswered>not answered: ask</NotAnswered> : quote.answer}
                  </Said>
                  <TakeOut>
                    <Button weight="quiet" aria-label={`Take out: ${quote.question}`} onPress={() => takeOut(quote)}>
                      Take out
                    </Button>
                  </TakeOut>
                </QuoteLine>
              </dd>
            </div>
          ))}
        </Answers>
      </MarginRow>
    </Quoted>
  );
}
/** Where there is room, the client's words stand beside one's own. */
const Sheet = styled.div`
  @media (min-width: 90rem) {
    columns: 2;
    column-gap: 2rem;
    & > * {
      break-inside: avoid-column;
    }
  }
`;
const Whose = styled.div<{ $tone: string }>`
  color: var(${({ $tone }) => $tone});
  font-weight: 600;
`;
const Heading = styled.span`
  font: 600 1.05rem/1.25 var(--serif);
`;
const Quoted = styled.div`
  background: var(--fern-wash);
  & > div > :first-child {
    padding-inline-start: 0.5rem;
  }
  & > div > :last-child {
    padding-block: 0.1rem;
  }
`;
const QuoteLine = styled.div`
  display: flex;
  gap: 0.75rem;
  justify-content: space-between;
  align-items: baseline;
`;
const Said = styled.span`
  font: 500 1.03rem/1.35 var(--serif);
`;
const NotAnswered = styled.span`
  font: 400 var(--small) / 1.4 var(--sans);
  color: var(--clay);
`;
const TakeOut = styled.span`
  flex: none;
  margin-block: -0.35rem;
  ${onLine}
`;
