"use client";
import { Link } from "@/ui/kit/link";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { applyChange, forClient, noAnswers, place, type Answers, type Questionnaire } from "@/core/questionnaire";
import { litBy, mapOf, unfolded, type MapNode } from "@/core/proof";
import type { Id } from "@/core/shared";
import { fillTranslator, type PageMessages } from "@/i18n/page-words";
import { Button } from "@/ui/kit/button";
import { Items } from "@/ui/fill/section-items";
import { Cluster, Page, Soft, Spoken } from "@/ui/kit/page";
import { Beside, WithBeside } from "../beside";

/** Sizes of the drawing in px: the height of a line, how far a level stands in, and where the first dot is. */
const high = 28;
const stepIn = 26;
const first = 16;
const across = (node: MapNode): number => first + node.level * stepIn;
const down = (at: number): number => at * high + high / 2;

/** The flow of a questionnaire: what leads to what, what is folded away, and the path that some answers take. */
export function QuestionnaireMap({
  id,
  questionnaire,
  words,
}: {
  readonly id: Id<"Questionnaire">;
  readonly questionnaire: Questionnaire;
  readonly words: PageMessages;
}) {
  const t = useMemo(() => fillTranslator("en", words), [words]);
  const [answers, setAnswers] = useState<Answers>(noAnswers);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const nodes = useMemo(() => mapOf(questionnaire), [questionnaire]);
  const client = useMemo(() => forClient(questionnaire), [questionnaire]);
  const lit = useMemo(() => litBy(questionnaire, answers), [questionnaire, answers]);
  const shown = useMemo(() => unfolded(nodes, folded), [nodes, folded]);
  const branching = useMemo(
    () => new Set(nodes.flatMap((n) => [...n.sources, ...(n.inside === undefined ? [] : [n.inside])])),
    [nodes],
  );
  const conditional = nodes.filter((n) => n.sources.length > 0);
  const questions = nodes.filter((n) => n.kind === "question");
  const toggle = (linkId: string): void =>
    setFolded((now) => new Set(now.has(linkId) ? [...now].filter((f) => f !== linkId) : [...now, linkId]));
  return (
    <WithBeside>
      <Page
        title={<bdi>{questionnaire.title || "Untitled"}</bdi>}
        margin={
          <>
            Map
            <br />
            {questions.filter((n) => lit.has(n.linkId)).length} of {questions.length} questions met
          </>
        }
        actions={
          <Cluster>
            {conditional.length > 0 && (
              <Button
                weight="quiet"
                onPress={() => setFolded(folded.size > 0 ? new Set() : new Set(conditional.flatMap((n) => n.sources)))}
              >
                {folded.size > 0 ? "Unfold all" : "Fold conditional"}
              </Button>
            )}
            <Link href={`/library/${id}/compose`}>Composer</Link>
            <Link href={`/library/${id}`}>Done</Link>
          </Cluster>
        }
      >
        <Flow style={{ blockSize: shown.length * high }}>
          <Lines nodes={shown} lit={lit} />
          <ol aria-label="Lines of the questionnaire">
            {shown.map((node) => (
              <Line
                key={node.linkId}
                data-lit={lit.has(node.linkId) || undefined}
                data-kind={node.kind}
                style={{ blockSize: high, paddingInlineStart: across(node) + 18 }}
              >
                <Go href={`/library/${id}/compose?line=${encodeURIComponent(node.linkId)}`} title={node.text}>
                  <bdi>{node.text || "Without words"}</bdi>
                </Go>
                {node.when ? (
                  <When title={`when ${node.when}`}>
                    when <bdi>{node.when}</bdi>
                  </When>
                ) : null}
                {branching.has(node.linkId) && (
                  <Fold
                    type="button"
                    aria-expanded={!folded.has(node.linkId)}
                    aria-label={`${folded.has(node.linkId) ? "Unfold" : "Fold"}: ${node.text}`}
                    onClick={() => toggle(node.linkId)}
                  >
                    {folded.has(node.linkId) ? "+" : "−"}
                  </Fold>
                )}
                <Spoken>{lit.has(node.linkId) ? "" : "not met on this path"}</Spoken>
              </Line>
            ))}
          </ol>
        </Flow>
      </Page>
      <Beside aria-label="Try a path">
        <Cluster $gap="0.25rem 0.75rem">
          <Soft>Try a path: answer, and see what lights up.</Soft>
          <Button weight="quiet" onPress={() => setAnswers(noAnswers)}>
            Clear answers
          </Button>
        </Cluster>
        <Phone role="region" aria-label="Answers to try" tabIndex={0}>
          <Items
            partId="map"
            placed={place(client, answers)}
            answers={answers}
            words={t}
            say={() => ""}
            problems={[]}
            onBlur={() => undefined}
            change={(...changes) => setAnswers((a) => changes.reduce<Answers>(applyChange, a))}
          />
        </Phone>
      </Beside>
    </WithBeside>
  );
}

/**
 * A line down through what follows on what, and a bend from each question to what hangs on it. What these answers meet
 * is drawn strong.
 */
function Lines({ nodes, lit }: { readonly nodes: readonly MapNode[]; readonly lit: ReadonlySet<string> }) {
  const at = new Map(nodes.map((n, i) => [n.linkId, i]));
  const met = (a: MapNode, b: MapNode): boolean => lit.has(a.linkId) && lit.has(b.linkId);
  const trunk = nodes.filter((n) => n.level === 0);
  const bends = nodes.flatMap((node) =>
    node.sources.flatMap((id) => {
      const from = at.get(id);
      return from === undefined ? [] : [{ from: nodes[from]!, node }];
    }),
  );
  const drawn = [
    ...trunk.slice(1).map((node, i) => ({
      key: `trunk ${node.linkId}`,
      strong: met(trunk[i]!, node),
      d: `M${first} ${down(at.get(trunk[i]!.linkId)!)}V${down(at.get(node.linkId)!)}`,
    })),
    ...bends.map(({ from, node }) => {
      const [x1, y1, x2, y2] = [across(from), down(at.get(from.linkId)!), across(node), down(at.get(node.linkId)!)];
      // Down beside the trunk and in at the end; one that looks back goes round the outside.
      const path =
        x2 > x1 && y2 > y1
          ? `M${x1} ${y1}C${x1 + 6} ${y1 + 14} ${x2} ${y1 + 5} ${x2} ${Math.min(y2, y1 + high)}V${y2}`
          : `M${x1} ${y1}C${x1 - 22} ${y1} ${x2 - 22} ${y2} ${x2} ${y2}`;
      return { key: `${from.linkId} ${node.linkId}`, strong: met(from, node), d: path };
    }),
  ];
  return (
    <Drawing
      aria-hidden="true"
      width={first * 2 + Math.max(0, ...nodes.map((n) => n.level)) * stepIn}
      height={nodes.length * high}
    >
      {[...drawn]
        .sort((a, b) => Number(a.strong) - Number(b.strong))
        .map((l) => (
          <path key={l.key} d={l.d} data-lit={l.strong || undefined} />
        ))}
      {nodes.map((node, index) =>
        node.kind === "section" || node.kind === "group" ? (
          <rect
            key={node.linkId}
            x={across(node) - 6}
            y={down(index) - 6}
            width="12"
            height="12"
            data-lit={lit.has(node.linkId) || undefined}
          />
        ) : (
          <circle
            key={node.linkId}
            cx={across(node)}
            cy={down(index)}
            r={node.kind === "question" ? 5 : 3}
            data-lit={lit.has(node.linkId) || undefined}
          />
        ),
      )}
    </Drawing>
  );
}
// Positioned, so that the hidden inputs in it stay in it.
const Phone = styled.div`
  position: relative;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--paper);
  padding: 1.25rem;
  margin-block-start: 0.6rem;
  max-block-size: calc(100dvh - 8rem);
  overflow: auto;
`;
/* On a narrow page every word is there, on as many lines as it takes, and the drawing gives way. */
const narrow = "@media (max-width: 34rem)";
const Flow = styled.div`
  position: relative;
  margin-block-start: 0.4rem;
  direction: ltr;
  ${narrow} {
    block-size: auto !important;
  }
`;
const Drawing = styled.svg`
  ${narrow} {
    display: none;
  }
  position: absolute;
  inset-block-start: 0;
  inset-inline-start: 0;
  overflow: visible;
  & path {
    fill: none;
    stroke: var(--rule-strong);
    stroke-width: 1.5;
    stroke-dasharray: 3 4;
  }
  & path[data-lit] {
    stroke: var(--plum);
    stroke-width: 2.5;
    stroke-dasharray: none;
  }
  & circle,
  & rect {
    fill: var(--paper);
    stroke: var(--rule-strong);
    stroke-width: 1.5;
  }
  & [data-lit]:not(path) {
    fill: var(--plum);
    stroke: var(--plum);
  }
`;
const Line = styled.li`
  display: flex;
  align-items: center;
  gap: 0.75rem;
  min-inline-size: 0;
  color: var(--soft);
  ${narrow} {
    block-size: auto !important;
    padding-inline-start: 0 !important;
    padding-block: 0.35rem;
    flex-wrap: wrap;
    gap: 0.1rem 0.75rem;
  }
  &[data-lit] {
    color: var(--ink);
  }
  &[data-kind="section"] {
    font: 600 1.08rem/1.3 var(--serif);
  }
  &[data-kind="text"],
  &[data-kind="score"] {
    font-style: italic;
  }
`;
const Go = styled(Link)`
  color: inherit;
  text-decoration-color: var(--rule-strong);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  flex: 0 1 auto;
  min-inline-size: 5rem;
  ${narrow} {
    white-space: normal;
    overflow-wrap: anywhere;
  }
`;
const When = styled.span`
  flex: 1 1 0;
  min-inline-size: 0;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: var(--small);
  color: var(--soft);
  ${narrow} {
    white-space: normal;
    flex-basis: 100%;
    order: 9;
  }
`;
const Fold = styled.button`
  flex: none;
  inline-size: 1.5rem;
  block-size: 1.5rem;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--leaf);
  color: var(--plum);
  font: 600 1rem/1 var(--sans);
  cursor: pointer;
`;
