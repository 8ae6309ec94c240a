"use client";
import { memo, useRef, type KeyboardEvent } from "react";
import { TextArea, TextField } from "react-aria-components/TextField";
import styled from "styled-components";
import { childrenOf, kindOf, type Item } from "@/core/questionnaire";
import { MarginRow } from "@/ui/kit/page";
import { signerWords } from "../../../signer-words";
import { kindWords } from "./kind-words";

export interface RowActions {
  write(linkId: string, text: string): void;
  key(event: KeyboardEvent, linkId: string): void;
  choose(linkId: string): void;
  drop(from: string, onto: string, where: "before" | "after"): void;
  /** Several lines at once: true where they are taken care of. */
  paste(linkId: string, text: string): boolean;
}
/** What stands in the margin of a line. */
export interface LineFacts {
  readonly when: string | undefined;
  readonly goesTo: string | undefined;
  /** Worst first, in words. */
  readonly findings: string;
  readonly isError: boolean;
}
interface OutlineRowProps extends LineFacts {
  readonly item: Item;
  readonly depth: number;
  readonly chosen: boolean;
  readonly actions: RowActions;
}
export const rowId = (linkId: string): string => `line-${linkId}`;

export interface OutlineBranchProps {
  readonly item: Item;
  /** Of every line, by its linkId; a line just made has none yet. */
  readonly facts: ReadonlyMap<string, LineFacts>;
  /** The line that is being written, if it is one of these; its settings stand below it. */
  readonly chosen: string | undefined;
  readonly settings: React.ReactNode;
  readonly actions: RowActions;
}
const noFacts: LineFacts = { when: undefined, goesTo: undefined, findings: "", isError: false };
const sameFacts = (a: LineFacts = noFacts, b: LineFacts = noFacts): boolean =>
  a.when === b.when && a.goesTo === b.goesTo && a.findings === b.findings && a.isError === b.isError;
const saysTheSame = (item: Item, a: OutlineBranchProps["facts"], b: OutlineBranchProps["facts"]): boolean =>
  sameFacts(a.get(item.linkId), b.get(item.linkId)) && childrenOf(item).every((inner) => saysTheSame(inner, a, b));
/** A line and all within it. */
export const OutlineBranch = memo(
  function OutlineBranch({ item: top, facts, chosen, settings, actions }: OutlineBranchProps) {
    const rows: React.ReactNode[] = [];
    const visit = (item: Item, depth: number): void => {
      rows.push(
        <OutlineRow
          key={item.linkId}
          item={item}
          depth={depth}
          chosen={chosen === item.linkId}
          {...(facts.get(item.linkId) ?? noFacts)}
          actions={actions}
        />,
      );
      if (chosen === item.linkId && settings)
        rows.push(
          <MarginRow key={`${item.linkId} settings`} margin="">
            {settings}
          </MarginRow>,
        );
      for (const inner of childrenOf(item)) visit(inner, depth + 1);
    };
    visit(top, 0);
    return rows;
  },
  (a, b) =>
    a.item === b.item &&
    a.chosen === b.chosen &&
    a.settings === b.settings &&
    a.actions === b.actions &&
    (a.facts === b.facts || saysTheSame(a.item, a.facts, b.facts)),
);

/** One line of the outline. Its margin says what it depends on and where its answer goes. */
const OutlineRow = memo(function OutlineRow({
  item,
  depth,
  chosen,
  when,
  goesTo,
  findings,
  isError,
  actions,
}: OutlineRowProps) {
  const kind = kindOf(item);
  const placeholderOf = () => {
    if (kind === "section") return "Title of the section";
    if (kind === "text") return "Text to read";
    if (kind === "signature") return "What is agreed to by signing";
    return "Write the question";
  };
  return (
    <Drop data-line={item.linkId}>
      <MarginRow
        margin={
          <Margin>
            {when ? <div>{when}</div> : null}
            {goesTo ? <Goes>to {goesTo}</Goes> : null}
            {findings ? <Found data-error={isError || undefined}>{findings}</Found> : null}
          </Margin>
        }
      >
        <Line
          data-chosen={chosen || undefined}
          style={{ "--depth": depth } as React.CSSProperties}
          onFocus={() => actions.choose(item.linkId)}
        >
          <Handle linkId={item.linkId} drop={actions.drop} />
          <Field
            aria-label={`${kindWords[kind]}${item.text ? "" : ", no words yet"}`}
            value={item.text}
            onChange={(text) => actions.write(item.linkId, text)}
          >
            <Words
              id={rowId(item.linkId)}
              rows={1}
              dir="auto"
              data-kind={kind}
              onKeyDown={(e) => actions.key(e, item.linkId)}
              onPaste={(e) => {
                if (actions.paste(item.linkId, e.clipboardData.getData("text/plain"))) e.preventDefault();
              }}
              placeholder={placeholderOf()}
            />
          </Field>
          <Kind>
            {kindWords[kind]}
            {item.type === "display" && item.signer ? `: ${signerWords[item.signer]}` : ""}
            {item.type !== "display" && item.required ? " · required" : ""}
          </Kind>
        </Line>
      </MarginRow>
    </Drop>
  );
});
const lineAt = (e: { readonly clientX: number; readonly clientY: number }): HTMLElement | undefined =>
  document.elementFromPoint(e.clientX, e.clientY)?.closest<HTMLElement>("[data-line]") ?? undefined;
const edge = 60;
const scrollBy = 14;
/**
 * Moves its line to where it is let go: by mouse, pen or finger. Who uses keys has Alt and the arrows, so it is hidden
 * from a screen reader.
 */
function Handle({ linkId, drop }: { readonly linkId: string; readonly drop: RowActions["drop"] }) {
  const over = useRef<HTMLElement>(undefined);
  const mark = (line: HTMLElement | undefined, pointerY = 0): void => {
    over.current?.removeAttribute("data-over");
    if (line && line.dataset["line"] !== linkId) {
      const { top, height } = line.getBoundingClientRect();
      const own = document.querySelector(`[data-line="${CSS.escape(linkId)}"]`);
      // Most of a line means "past it", as the hand moves; only its near edge means this side of it.
      const below = own !== null && (own.compareDocumentPosition(line) & Node.DOCUMENT_POSITION_FOLLOWING) !== 0;
      line.setAttribute("data-over", pointerY < top + height * (below ? 0.25 : 0.75) ? "before" : "after");
    }
    over.current = line;
  };
  return (
    <Grip
      aria-hidden="true"
      title="Drag to move. Or hold Alt and press an arrow key."
      onPointerDown={(e) => {
        e.preventDefault();
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
        mark(lineAt(e), e.clientY);
        if (e.clientY < edge) window.scrollBy(0, -scrollBy);
        else if (e.clientY > window.innerHeight - edge) window.scrollBy(0, scrollBy);
      }}
      onPointerUp={(e) => {
        const { line: onto, over: where } = over.current?.dataset ?? {};
        if (e.currentTarget.hasPointerCapture(e.pointerId) && onto !== undefined && where !== undefined)
          drop(linkId, onto, where === "before" ? "before" : "after");
        mark(undefined);
      }}
      onPointerCancel={() => mark(undefined)}
    >
      ⁝
    </Grip>
  );
}
// A long outline is laid out where it is seen.
const Drop = styled.div`
  content-visibility: auto;
  contain-intrinsic-size: auto 2.2rem;
  --row: 0.15rem;
  &[data-over="after"] {
    box-shadow: inset 0 -3px 0 var(--plum);
  }
  &[data-over="before"] {
    box-shadow: inset 0 3px 0 var(--plum);
  }
`;
const Margin = styled.div`
  font-size: var(--small);
`;
const Goes = styled.div`
  color: var(--fern);
`;
const Found = styled.div`
  color: var(--clay);
  &[data-error] {
    color: var(--madder);
    font-weight: 600;
  }
  &::before {
    content: "▲ ";
    content: "▲ " / "";
    font-size: 0.8em;
  }
`;
const Line = styled.div`
  display: flex;
  align-items: baseline;
  gap: 0.4rem;
  padding-inline-start: calc(var(--depth) * 1.2rem);
`;
const Grip = styled.span`
  cursor: grab;
  touch-action: none;
  padding: 0.15rem 0.35rem;
  @media (pointer: coarse) {
    opacity: 1;
    padding: 0.6rem;
  }
  color: var(--rule-strong);
  user-select: none;
  opacity: 0;
  ${Drop}:hover &, ${Line}[data-chosen] & {
    opacity: 1;
  }
`;
const Field = styled(TextField)`
  flex: 1;
  min-width: 0;
`;
const Words = styled(TextArea)`
  width: 100%;
  font: inherit;
  line-height: 1.4;
  color: var(--ink);
  background: none;
  border: 0;
  border-block-end: 1px solid transparent;
  padding: 0.1rem 0;
  resize: none;
  field-sizing: content;
  display: block;
  overflow-wrap: anywhere;
  &:hover {
    border-color: var(--rule);
  }
  &:focus {
    outline: none;
    border-color: var(--plum);
    box-shadow: 0 1px 0 var(--plum);
  }
  &::placeholder {
    color: var(--soft);
    font-style: italic;
    opacity: 1;
  }
  &[data-kind="section"],
  &[data-kind="repeating"],
  &[data-kind="grid"] {
    font: 600 1.05rem/1.3 var(--serif);
  }
`;
const Kind = styled.span`
  flex: none;
  max-width: 9rem;
  font-size: var(--small);
  color: var(--soft);
  text-align: end;
`;
