"use client";
import styled from "styled-components";
import { measureWords, type NoteLine, type Run } from "@/core/notes";

/** A note's lines, to be read. */
export function NoteLines({ lines }: { readonly lines: readonly NoteLine[] }) {
  return (
    <Lines>
      {lines.map((line, index) => (
        <OneLine key={index} line={line} />
      ))}
    </Lines>
  );
}
function Runs({ runs }: { readonly runs: readonly Run[] }) {
  return (
    <>
      {runs.map(({ text, bold, italic, href }, index) => {
        const words = bold ? <strong>{text}</strong> : text;
        const said = italic ? <em>{words}</em> : words;
        return (
          <span key={index}>
            {href === undefined ? (
              said
            ) : (
              <a href={href} rel="noreferrer noopener" target="_blank">
                {said}
              </a>
            )}
          </span>
        );
      })}
    </>
  );
}
function OneLine({ line }: { readonly line: NoteLine }) {
  switch (line.kind) {
    case "heading":
      return line.level === 2 ? <h2 dir="auto">{line.text}</h2> : <h3 dir="auto">{line.text}</h3>;
    case "text":
      return (
        <p dir="auto">
          <Runs runs={line.runs} />
        </p>
      );
    case "item":
      return (
        <p dir="auto" style={{ paddingInlineStart: `${line.depth * 1.2}rem` }}>
          {line.number === undefined ? "• " : `${line.number}. `}
          <Runs runs={line.runs} />
        </p>
      );
    case "row":
      return (
        <Row>
          {line.cells.map((cell, index) => (
            <span key={index} dir="auto" style={{ fontWeight: line.header ? 600 : 400 }}>
              {cell}
            </span>
          ))}
        </Row>
      );
    case "quoted":
      return (
        <Quoted>
          <span dir="auto">{line.quote.question}</span>
          <q dir="auto">{line.quote.answer}</q>
          {line.remark !== "" && <em dir="auto">{line.remark}</em>}
        </Quoted>
      );
    case "restated":
      return (
        <p dir="auto">
          <span>{line.quote.question}</span> {line.text}
        </p>
      );
    case "measure":
      return <p>{measureWords(line.measure)}</p>;
  }
}
const Lines = styled.div`
  overflow-wrap: anywhere;
  & > p {
    white-space: pre-wrap;
    padding-block: 0.15rem;
  }
  & > h2,
  & > h3 {
    font: 600 1.1rem/1.3 var(--serif);
    margin-block: 0.9rem 0.15rem;
  }
  & > h3 {
    font-size: 1rem;
  }
  & > :first-child {
    margin-block-start: 0;
  }
`;
const Row = styled.div`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 0.75rem;
  padding-block: 0.2rem;
  border-block-end: 1px solid var(--rule);
`;
const Quoted = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 0.8fr) minmax(0, 1fr);
  gap: 0 1rem;
  padding: 0.2rem 0.5rem;
  background: var(--fern-wash);
  border-block-end: 1px solid var(--rule);
  & > span {
    color: var(--soft);
    font-size: var(--small);
  }
  & > q {
    font: 500 1.03rem/1.35 var(--serif);
    white-space: pre-wrap;
    quotes: none;
  }
  & > em {
    grid-column: 1 / -1;
    font-size: var(--small);
  }
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
