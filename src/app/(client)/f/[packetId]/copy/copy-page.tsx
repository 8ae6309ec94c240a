"use client";
import { Doorstep } from "@/ui/kit/doorstep";
import { Facts } from "@/ui/kit/paper-sheet";
import { Moment } from "@/ui/kit/time";
import type { OwnPaper } from "@/usecases/filling";

export interface CopyPageProps {
  readonly paper: OwnPaper;
  readonly language: string;
  readonly words: Readonly<Record<"notAnswered" | "pdf" | "back", string>>;
  readonly base: string;
}
export function CopyPage({ paper, language, words, base }: CopyPageProps) {
  return (
    <Doorstep name={paper.practice} language={language}>
      <h1>
        <bdi>{paper.person}</bdi>
      </h1>
      <p>
        <Moment at={paper.at} as="full" />
      </p>
      {paper.parts.map((part) => (
        <section key={part.title} lang={paper.language}>
          <h2 dir="auto">{part.title}</h2>
          <Facts
            facts={part.lines.map((line) => [line.question, line.answer === "" ? words.notAnswered : line.answer])}
          />
        </section>
      ))}
      <p>
        <a href={`${base}/paper`}>{words.pdf}</a>
      </p>
      <p>
        <a href={base}>{words.back}</a>
      </p>
    </Doorstep>
  );
}
