"use client";
import styled from "styled-components";
import { Page, SectionTitle, Soft } from "@/ui/kit/page";
import { Sheet } from "@/ui/kit/paper-sheet";
import type { BlankPaper } from "@/usecases/authoring";

/** The empty questionnaire as a page to read or print, the same as on the PDF. */
export function BlankPage({ paper, pdf }: { readonly paper: BlankPaper; readonly pdf: string }) {
  return (
    <Page
      title={<bdi>{paper.title}</bdi>}
      margin={
        <>
          {paper.practice}
          <br />
          version {paper.version}
        </>
      }
      actions={<a href={pdf}>PDF</a>}
    >
      <Sheet>
        <Ruled>{paper.words.name}</Ruled>
        <Ruled>{paper.words.date}</Ruled>
        {paper.lines.map((line, index) => {
          if (line.kind === "section")
            return (
              <SectionTitle key={index} dir="auto">
                {line.text}
              </SectionTitle>
            );
          if (line.kind === "text")
            return (
              <p key={index} dir="auto">
                {line.text}
              </p>
            );
          return (
            <Asked key={index} dir="auto">
              {line.only && <Soft as="p">{line.only}</Soft>}
              <strong>{line.text}</strong>
              {line.help && <Soft as="p">{line.help}</Soft>}
              {line.options.length > 0 && (
                <ul>
                  {line.options.map((option, n) => (
                    <li key={n}>
                      <span aria-hidden="true">☐</span> {option}
                    </li>
                  ))}
                </ul>
              )}
              {Array.from({ length: line.rules }, (_, n) => (
                <Rule key={n} aria-hidden="true" />
              ))}
            </Asked>
          );
        })}
        {paper.signed && <Ruled>{paper.words.signature}</Ruled>}
      </Sheet>
    </Page>
  );
}
const Rule = styled.div`
  height: 1.9rem;
  border-block-end: 1px solid var(--rule-strong);
`;
const Ruled = styled.p`
  padding-block-end: 1.6rem;
  border-block-end: 1px solid var(--rule-strong);
  color: var(--soft);
`;
const Asked = styled.div`
  break-inside: avoid;
  & ul {
    display: flex;
    flex-wrap: wrap;
    gap: 0.2rem 1.4rem;
    padding-block: 0.3rem;
  }
`;
