import styled from "styled-components";

/** A document: whose words in the margin, what in the wide column, the client's set apart by form and ground. */
export const NoteSheet = styled.div`
  & .ProseMirror {
    outline: none;
    position: relative;
    white-space: pre-wrap;
    word-wrap: break-word;
    min-height: 6rem;
    padding-block-end: 0.75rem;
  }
  & .ProseMirror > * {
    margin: 0;
    padding-block: 0.2rem;
    padding-inline: calc(var(--margin-column) + var(--inset)) 0.25rem;
    background: linear-gradient(var(--rule-strong), var(--rule-strong)) no-repeat;
    background-size: 1px 100%;
    background-position: var(--margin-column) 0;
    overflow-wrap: anywhere;
    &:dir(rtl) {
      background-position: calc(100% - var(--margin-column)) 0;
    }
  }
  & h2,
  & h3 {
    position: relative;
    padding-block-start: 0.6rem;
    font: 600 1.05rem/1.25 var(--serif);
  }
  & h3 {
    font-size: 0.98rem;
  }
  & ul,
  & ol {
    list-style-position: inside;
  }
  & ul {
    list-style-type: disc;
  }
  & ol {
    list-style-type: decimal;
  }
  & li > p {
    display: inline;
  }
  & li > ul,
  & li > ol {
    padding-inline-start: 1.2rem;
  }
  & a {
    color: var(--plum);
    text-decoration: underline;
  }
  & table {
    border-collapse: collapse;
    width: auto;
    & td,
    & th {
      border: 1px solid var(--rule-strong);
      padding: 0.2rem 0.5rem;
      min-width: 4rem;
      vertical-align: top;
      text-align: start;
    }
  }
  & .tableWrapper {
    overflow-x: auto;
  }
  & p[data-prompt]::before {
    content: attr(data-prompt);
    color: var(--soft);
    float: inline-start;
    height: 0;
    pointer-events: none;
  }
  & .quoted,
  & .restated,
  & .open,
  & .measure {
    position: relative;
    display: grid;
    grid-template-columns: minmax(0, 0.8fr) minmax(0, 1fr);
    gap: 0 1rem;
    align-items: baseline;
    border-block-end: 1px solid var(--rule);
  }
  & .quoted {
    background-color: var(--fern-wash);
    & .answer {
      font: 500 1.03rem/1.35 var(--serif);
      white-space: pre-wrap;
    }
    & .remark {
      grid-column: 1 / -1;
      padding-inline-start: 0.75rem;
      border-inline-start: 2px solid var(--plum);
      font-size: var(--small);
    }
    &.goes-on .whose {
      display: none;
    }
  }
  /* Whose words they are needs two lines, where one answer stands alone. */
  & .quoted:not(.goes-on):not(:has(+ .goes-on)) {
    min-height: 2.75rem;
  }
  & .question {
    color: var(--soft);
    font-size: var(--small);
  }
  & .theirs {
    display: block;
    font: 500 0.95rem/1.35 var(--serif);
  }
  & .restated[data-empty="yes"] .answer::before {
    content: "in your words";
    color: var(--soft);
    font-size: var(--small);
  }
  & .open[data-empty="yes"] .answer::before {
    content: "not answered: ask";
    color: var(--clay);
    font-size: var(--small);
  }
  & .restated .answer,
  & .open .answer {
    border-inline-start: 2px solid var(--plum);
    padding-inline-start: 0.5rem;
  }
  & .open[data-empty="yes"] .answer {
    border-color: transparent;
  }
  & .whose {
    position: absolute;
    inset-inline-start: 0;
    inset-block-start: 0;
    width: var(--margin-column);
    padding: 0.25rem 0.5rem;
    font-size: var(--small);
    line-height: 1.35;
    color: var(--fern);
    z-index: 1;
    pointer-events: none;
  }
  & .measure {
    grid-template-columns: auto minmax(0, 1fr);
    & canvas {
      width: 220px;
      height: 60px;
    }
  }
  & .ProseMirror-selectednode {
    outline: 2px solid var(--plum);
    outline-offset: -2px;
  }
  @media (max-width: 44rem) {
    & .ProseMirror > *,
    &.read > * {
      padding-inline: 0.25rem;
      background-image: none;
    }
    & .quoted,
    & .restated,
    & .open {
      grid-template-columns: minmax(0, 1fr);
    }
    & .whose {
      position: static;
      width: auto;
      padding: 0;
    }
  }
`;
