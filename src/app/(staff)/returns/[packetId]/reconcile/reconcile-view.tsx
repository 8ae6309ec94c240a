"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import styled from "styled-components";
import type { Choice, Decision, RowValue } from "@/core/chart";
import { Button } from "@/ui/kit/button";
import { Fold } from "@/ui/kit/ledger";
import { Notice } from "@/ui/kit/notice";
import { Page, Soft } from "@/ui/kit/page";
import { Key, rowKeys, Shortcuts } from "@/ui/kit/shortcuts";
import { Moment } from "@/ui/kit/time";
import type { PartLine, ReconcileView as View } from "@/usecases/charting";
import { postAction, type PostOutcome } from "./actions";
import { OneLine, startText, valueText } from "./reconcile-line";

export interface ReconcileViewProps {
  readonly requestId: string;
  readonly view: View;
}
/** What came in beside what is on file, a decision a line. */
export function ReconcileView({ view, requestId }: ReconcileViewProps) {
  const router = useRouter();
  const [chosen, setChosen] = useState<Readonly<Record<string, Choice>>>({});
  const [edits, setEdits] = useState<Readonly<Record<string, string | RowValue>>>({});
  const [outcome, setOutcome] = useState<PostOutcome>({});
  const [posting, startPosting] = useTransition();
  const choiceFor = (line: PartLine): Choice | undefined => chosen[line.id] ?? line.suggested;
  const toDecide = view.lines.filter((l) => l.status !== "same");
  const same = view.lines.filter((l) => l.status === "same");
  const open = toDecide.filter((l) => choiceFor(l) === undefined).length;
  const writes = toDecide.filter((l) => !["keep", undefined].includes(choiceFor(l))).length;

  const post = (): void =>
    startPosting(async () => {
      const decisions = view.lines.flatMap((line): Decision[] => {
        const choice = choiceFor(line);
        if (choice === undefined) return [];
        return [{ line: line.id, choice, ...(choice === "edit" ? { edited: edits[line.id] ?? startText(line) } : {}) }];
      });
      const result = await postAction({ packetId: view.packetId, requestId, revision: view.revision, decisions });
      setOutcome(result);
      if (result.moved) router.refresh();
      const first = result.lines?.[0];
      if (first) document.getElementById(`line-${first}`)?.scrollIntoView({ block: "center" });
    });
  const takeNew = (): void => {
    const fresh = toDecide.filter((l) => l.status === "new" && l.choices.includes("take"));
    setChosen({ ...chosen, ...Object.fromEntries(fresh.map((l) => [l.id, "take" as const])) });
  };
  const postWords = writes === 0 ? "Settle without changes" : `Post ${writes} ${writes === 1 ? "answer" : "answers"}`;
  return (
    <Page
      title={
        <>
          Reconcile <bdi>{view.clientName}</bdi>
        </>
      }
      margin={
        <>
          returned <Moment at={view.returnedAt} />
          <br />
          {countWords(toDecide.length)} · {same.length} same as on file
        </>
      }
      actions={
        <Button weight="primary" onPress={post} busy={posting}>
          {open > 0 ? `${postWords}, ${open} still open` : postWords}
        </Button>
      }
    >
      <Shortcuts
        list={[{ key: "n", does: "take all that is new", run: takeNew }]}
        also={[
          { key: "↑ ↓", does: "from line to line" },
          ...choiceKeys.map(({ key, does }) => ({ key, does: `${does}, on the line` })),
        ]}
      />
      {outcome.message ? <Notice tone="problem">{outcome.message}</Notice> : null}
      {toDecide.length > 0 && (
        <div onKeyDown={rowKeys}>
          <Titles aria-hidden="true">
            <span>On file since</span>
            <span>On file</span>
            <span>Came in</span>
            <span>
              Decide <Key>↑</Key> <Key>↓</Key>
            </span>
          </Titles>
          {toDecide.map((line) => (
            <OneLine
              key={line.id}
              line={line}
              choice={choiceFor(line)}
              choose={(choice) => setChosen({ ...chosen, [line.id]: choice })}
              edited={edits[line.id] ?? startText(line)}
              edit={(value) => setEdits({ ...edits, [line.id]: value })}
              problem={outcome.lines?.includes(line.id) ? "Decide this one." : undefined}
            />
          ))}
        </div>
      )}
      <Foot>
        {same.length > 0 && (
          <Fold>
            <summary>
              {same.length} {same.length === 1 ? "line is" : "lines are"} the same as on file
            </summary>
            <Same>
              {same.map((line) => (
                <li key={line.id}>
                  <Soft>{line.field.label}</Soft> <bdi>{valueText(line.field, line.incoming)}</bdi>
                </li>
              ))}
            </Same>
          </Fold>
        )}
        <Soft>
          <Key>n</Key> take all that is new · <Key>?</Key> keys. Identity is never changed unless you say so; a posting
          can be reversed later.
        </Soft>
      </Foot>
    </Page>
  );
}
const countWords = (count: number): string => {
  if (count === 0) return "everything is on file already";
  return count === 1 ? "1 line differs or is new" : `${count} lines differ or are new`;
};
const choiceKeys = [
  { key: "k", does: "keep what is on file" },
  { key: "t", does: "take what came in" },
  { key: "b", does: "keep both" },
  { key: "w", does: "write it yourself" },
];

const Titles = styled.div`
  display: grid;
  grid-template-columns: var(--margin-column) minmax(0, 1.1fr) minmax(0, 1fr) 20.5rem;
  padding-block: 0.3rem;
  border-block-end: 1px solid var(--rule);
  color: var(--soft);
  font-size: var(--small);
  & > :nth-child(2) {
    padding-inline-start: var(--inset);
  }
  @media (max-width: 64rem) {
    display: none;
  }
`;
const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 1.5rem;
  justify-content: space-between;
  padding-block: 0.6rem;
`;
const Same = styled.ul`
  columns: 2 20rem;
  column-gap: 1.75rem;
`;
