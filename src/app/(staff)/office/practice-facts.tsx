"use client";
import { languageName } from "@/core/shared";
import { Answers } from "@/ui/kit/ledger";
import { MarginRow } from "@/ui/kit/page";

export interface PracticeFactsProps {
  readonly name: string;
  readonly email: string;
  readonly zone: string;
  readonly locale: string;
}
/** What the practice is known by, on clients' pages and in letters. */
export function PracticeFacts({ name, email, zone, locale }: PracticeFactsProps) {
  const facts = [
    ["Name", name],
    ["E-mail", email],
    ["Time zone", zone],
    ["Language", languageName(locale)],
  ] as const;
  return (
    <MarginRow margin="Practice">
      <Answers>
        {facts.map(([label, value]) => (
          <div key={label}>
            <dt>{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </Answers>
    </MarginRow>
  );
}
