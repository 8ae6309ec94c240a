"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition, type ReactNode } from "react";
import styled from "styled-components";
import { mayRedirect } from "@/core/chart";
import { Button } from "@/ui/kit/button";
import { Fold } from "@/ui/kit/ledger";
import { Notice } from "@/ui/kit/notice";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { isBefore } from "@/core/shared";
import { Page, SectionTitle, Soft } from "@/ui/kit/page";
import { Key, rowKeys, Shortcuts } from "@/ui/kit/shortcuts";
import { Moment } from "@/ui/kit/time";
import type { PartLine, ReconcileView as View } from "@/usecases/charting";
import { postAction, type PostOutcome } from "./actions";
import { OneLine, valueText } from "./reconcile-line";
import { useDecisions } from "./use-decisions";

export interface ReconcileViewProps {
  readonly requestId: string;
  readonly view: View;
}
/** What came in beside what is on file, a decision a line. */
export function ReconcileView({ view, requestId }: ReconcileViewProps) {
  const router = useRouter();
  useLiveReload();
  const [outcome, setOutcome] = useState<PostOutcome>({});
  const [posting, startPosting] = useTransition();
  const decided = useDecisions(view);
  const { choiceFor, redirects } = decided;
  const toDecide = view.lines.filter((l) => l.status !== "same");
  const same = view.lines.filter((l) => l.status === "same");
  const open = toDecide.filter((l) => choiceFor(l) === undefined).length;
  const writes = toDecide.filter((l) => !["keep", undefined].includes(choiceFor(l))).length;
  const post = (): void =>
    startPosting(async () => {
      const decisions = decided.finish();
      const sent = { packetId: view.packetId, requestId, revision: view.revision, decisions, redirects };
      const result = await postAction(sent);
      setOutcome(result);
      if (result.moved) router.refresh();
      const first = result.lines?.[0];
      if (first) document.getElementById(`line-${first}`)?.scrollIntoView({ block: "center" });
    });
  const takeNew = (): void =>
    decided.choose(
      toDecide.filter((l) => l.status === "new" && l.choices.includes("take")),
      "take",
    );
  const postWords = writes === 0 ? "Settle without changes" : `Post ${writes} ${writes === 1 ? "answer" : "answers"}`;
  const title = (
    <>
      Reconcile <bdi>{view.clientName}</bdi>
    </>
  );
  // One's own posting leads on by itself.
  if (view.posted && !posting)
    return <Posted title={title} view={view} posted={view.posted} message={outcome.message} />;
  return (
    <Page
      title={title}
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
      <Beside view={view} />
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
          {groupsOf(toDecide).map(({ title, lines }) => (
            <section key={title} aria-label={title}>
              <SectionTitle>
                {title} <Soft>{lines.length}</Soft>
              </SectionTitle>
              {lines.map((line) => (
                <OneLine
                  key={line.id}
                  line={line}
                  choice={choiceFor(line)}
                  choose={(choice) => decided.choose([line], choice)}
                  edited={decided.editedOf(line)}
                  edit={(value) => decided.edit(line, value)}
                  problem={outcome.lines?.includes(line.id) ? "Decide this one." : undefined}
                  elsewhere={
                    line.shape === "value"
                      ? view.elsewhere.filter(
                          (to) => mayRedirect(line.field, to) || (to.key === line.field.key && line.id in redirects),
                        )
                      : []
                  }
                  isElsewhere={redirects[line.id] !== undefined}
                  putElsewhere={(field) => decided.putElsewhere(line, field)}
                />
              ))}
            </section>
          ))}
        </div>
      )}
      <Foot>
        {same.length > 0 && <SameLines same={same} />}
        <Soft>
          {draftWords[decided.state]}
          <Key>n</Key> take all that is new · <Key>?</Key> keys. Identity is never changed unless you say so; a posting
          can be reversed later.
        </Soft>
      </Foot>
    </Page>
  );
}
function SameLines({ same }: { readonly same: readonly PartLine[] }) {
  return (
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
  );
}
/** What stands there once somebody posted it, also while somebody else was deciding. */
function Posted({
  title,
  view: { clientId, clientName },
  posted,
  message,
}: {
  readonly title: ReactNode;
  readonly view: View;
  readonly posted: NonNullable<View["posted"]>;
  readonly message: string | undefined;
}) {
  return (
    <Page title={title}>
      {message ? <Notice tone="problem">{message}</Notice> : null}
      <Notice tone="settled">
        <strong>
          {posted.by === undefined ? "This return was posted," : <bdi>{posted.by}</bdi>}
          {posted.by === undefined ? "" : " posted this return,"}
        </strong>{" "}
        <Moment at={posted.at} />. There is nothing left to decide: only what was posted then stands in the chart, and
        it can be reversed there. <Link href={`/people/${clientId}`}>Chart of {clientName}</Link>
      </Notice>
    </Page>
  );
}
/** Who decides about it too, and what else of theirs waits. */
function Beside({ view }: { readonly view: View }) {
  return (
    <>
      {view.others.map((other) => (
        <Notice key={other.by} tone="attention">
          <strong>
            <bdi>{other.by}</bdi> decides about this return too,
          </strong>{" "}
          last <Moment at={other.at} />. Whoever posts first posts; the other is told.
        </Notice>
      ))}
      {view.waiting.length > 0 && (
        <Notice tone="attention">
          {view.waiting.length === 1 ? "Another return" : `${view.waiting.length} more returns`} of theirs{" "}
          {view.waiting.length === 1 ? "is" : "are"} not charted.{" "}
          {isBefore(view.waiting[0]!.returnedAt, view.returnedAt) ? (
            <Link href={`/returns/${view.waiting[0]!.packetId}/reconcile`}>
              Begin with the oldest, of <Moment at={view.waiting[0]!.returnedAt} as="day" />
            </Link>
          ) : (
            "This one is the oldest; the next follows when it is posted."
          )}
        </Notice>
      )}
    </>
  );
}
const draftWords: Readonly<Record<string, string>> = {
  saving: "Keeping your decisions… ",
  failed: "Your decisions could not be kept; post them before you leave. ",
  stopped: "Your decisions could not be kept; post them before you leave. ",
};
/** What somebody has to look at, before what is only new. */
function groupsOf(lines: readonly PartLine[]): { readonly title: string; readonly lines: readonly PartLine[] }[] {
  const needs = lines.filter((line) => line.status !== "new" || line.field.identity || line.suggested === undefined);
  const fresh = lines.filter((line) => !needs.includes(line));
  return [
    { title: "Needs you", lines: needs },
    { title: "New", lines: fresh },
  ].filter((group) => group.lines.length > 0);
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
  { key: "p", does: "keep the legal name, and call them as they wrote" },
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
