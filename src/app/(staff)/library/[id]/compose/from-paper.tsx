"use client";
import { useState } from "react";
import { FileTrigger } from "react-aria-components/FileTrigger";
import styled from "styled-components";
import type { Item, LineKind } from "@/core/questionnaire";
import { linesOf, paperItem, readPaper, type PaperLine, type PrintedLine } from "@/core/worksheet";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { kindWords } from "./kind-words";
import type { PaperAnswer } from "./paper.worker";
import { newKey } from "./use-outline";

/** Where lines off a paper are to go, and what was pasted there. */
export interface PaperPlace {
  readonly after: string | undefined;
  readonly text: string;
}
export interface FromPaperProps {
  readonly place: PaperPlace | undefined;
  readonly open: () => void;
  readonly close: () => void;
  readonly url: string;
  readonly add: (after: string | undefined, items: readonly Item[]) => void;
}
interface Offered extends PaperLine {
  readonly taken: boolean;
}
const offered = (lines: readonly PrintedLine[]): readonly Offered[] =>
  readPaper(lines).map((line) => ({ ...line, taken: true }));
const kinds: readonly LineKind[] = [
  "section",
  "short-text",
  "long-text",
  "yes-no",
  "one-of",
  "several-of",
  "scale",
  "whole-number",
  "date",
  "email",
  "phone",
  "postal-address",
  "text",
  "grid",
  "signature",
];
const longestWait = 20_000;
const mostBytes = 25_000_000;

/** A form that exists on paper, as lines to accept one by one. Nothing leaves this browser. */
export function FromPaper({ place, open, close, url, add }: FromPaperProps) {
  if (!place)
    return (
      <MarginRow margin="">
        <Button weight="quiet" onPress={open}>
          From paper: paste a form, or take the text of a PDF
        </Button>
      </MarginRow>
    );
  return <Paper key={`${place.after ?? ""} ${place.text}`} {...{ place, close, url, add }} />;
}

function Paper({ place, close, url, add }: Omit<FromPaperProps, "open" | "place"> & { readonly place: PaperPlace }) {
  const [text, setText] = useState(place.text);
  const [lines, setLines] = useState<readonly Offered[]>(() => (place.text ? offered(linesOf(place.text)) : []));
  const [said, setSaid] = useState<string>();
  const taken = lines.filter((line) => line.taken);
  const unsure = taken.filter((line) => line.guessed).length;
  const look = (index: number, change: Partial<Offered>): void =>
    setLines((now) => now.map((line, at) => (at === index ? { ...line, guessed: false, ...change } : line)));
  const read = async (chosen: File): Promise<void> => {
    setSaid("Reading…");
    const answer = await textOf(chosen);
    if (answer.kind !== "lines") {
      setSaid(troubles[answer.kind]);
      return;
    }
    setText(answer.lines.map((line) => line.text).join("\n"));
    const found = offered(answer.lines);
    setLines(found);
    const more = answer.left > 0 ? ` The last ${answer.left} pages were left out.` : "";
    setSaid(
      found.length === 0 ? troubles.empty : `Read ${answer.pages === 1 ? "one page" : `${answer.pages} pages`}.${more}`,
    );
  };
  return (
    <MarginRow margin="From paper">
      <Stack $gap="0.7rem">
        <TextField
          label="The form’s text"
          help="Headings, numbered questions, ☐ or ○ for options, ____ for text, Yes / No."
          long
          value={text}
          autoFocus={place.text === ""}
          onChange={(now) => {
            setText(now);
            setLines(offered(linesOf(now)));
          }}
        />
        <Cluster $gap="0.4rem 1rem">
          <FileTrigger
            acceptedFileTypes={["application/pdf", ".pdf"]}
            onSelect={(files) => {
              const chosen = files?.[0];
              if (chosen) void read(chosen);
            }}
          >
            <Button>Choose a PDF</Button>
          </FileTrigger>
          <Soft>It is read in this browser and stored nowhere.</Soft>
        </Cluster>
        {said && <Notice>{said}</Notice>}
        {lines.length > 0 && (
          <Lines>
            {lines.map((line, index) => (
              <OneLine key={index} line={line} look={(change) => look(index, change)} />
            ))}
          </Lines>
        )}
        {unsure > 0 && (
          <Soft>
            {unsure === 1 ? "One line is a guess" : `${unsure} lines are guesses`}, marked ▲ until looked at. You can
            change all of them in the outline too.
          </Soft>
        )}
        <Cluster>
          <Button
            weight="primary"
            isDisabled={taken.length === 0}
            onPress={() => {
              add(
                place.after,
                taken.map((line) => paperItem(line, newKey, `${url}/options`)),
              );
              close();
            }}
          >
            {taken.length === 1 ? "Add one line" : `Add ${taken.length} lines`}
          </Button>
          <Button onPress={close}>Cancel</Button>
        </Cluster>
      </Stack>
    </MarginRow>
  );
}

function OneLine({ line, look }: { readonly line: Offered; readonly look: (change: Partial<Offered>) => void }) {
  const name = line.text || line.rows[0] || line.source;
  const below = [line.rows.join(" · "), line.options.join(" · ")].filter(Boolean).join(": ");
  const offers = kinds.includes(line.kind) ? kinds : [line.kind, ...kinds];
  return (
    <Row data-left={!line.taken || undefined} onFocus={() => line.guessed && look({})}>
      <Checkbox
        label={
          <>
            {line.guessed && (
              <Guess>
                <span aria-hidden="true">▲ </span>guessed
              </Guess>
            )}{" "}
            <bdi>{name}</bdi>
          </>
        }
        isSelected={line.taken}
        onChange={(on) => look({ taken: on })}
      />
      <Pick
        small
        bare
        label={`Kind of “${name}”`}
        value={line.kind}
        options={offers.map((kind) => ({ value: kind, label: kindWords[kind] }))}
        onChange={(kind) => look({ kind: kind as LineKind })}
      />
      {below && <Below>{below}</Below>}
    </Row>
  );
}

const troubles = {
  unreadable: "This file is not a PDF that can be read. Copy the text from it and paste it here.",
  locked: "This PDF is locked with a password. Save it without one.",
  "too-large": "This PDF is larger than 25 MB. Send fewer pages, or paste the text.",
  "too-slow": "This PDF takes too long to read. Copy the text from it and paste it here.",
  empty: "There is no text in this PDF: it is a picture of a page. Type or paste the text here.",
} as const;
/** The text of a PDF, read beside the page; given up when it takes too long. */
function textOf(file: File): Promise<PaperAnswer | { readonly kind: "too-large" | "too-slow" }> {
  if (file.size > mostBytes) return Promise.resolve({ kind: "too-large" });
  return new Promise((resolve) => {
    const worker = new Worker(new URL("./paper.worker.ts", import.meta.url), { type: "module" });
    const done = (answer: PaperAnswer | { readonly kind: "too-slow" }): void => {
      clearTimeout(timer);
      worker.terminate();
      resolve(answer);
    };
    const timer = setTimeout(() => done({ kind: "too-slow" }), longestWait);
    worker.onmessage = ({ data: answer }: MessageEvent<PaperAnswer>) => done(answer);
    worker.onerror = () => done({ kind: "unreadable" });
    void file.arrayBuffer().then((bytes) => worker.postMessage(new Uint8Array(bytes)));
  });
}
const Lines = styled.ol`
  max-height: 26rem;
  overflow: auto;
  border-block: 1px solid var(--rule);
`;
const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 12rem;
  gap: 0.15rem 1rem;
  align-items: center;
  padding-block: 0.3rem;
  border-block-end: 1px solid var(--rule);
  &[data-left] {
    opacity: 0.6;
  }
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Below = styled.span`
  grid-column: 1 / -1;
  padding-inline-start: 1.9rem;
  color: var(--soft);
  font-size: var(--small);
`;
const Guess = styled.span`
  color: var(--clay);
  font-weight: 600;
`;
