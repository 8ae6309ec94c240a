"use client";
import { journalWords } from "@/core/audit";
import { ListLine } from "@/ui/kit/ledger";
import { SectionTitle, Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { JournalView as Journal } from "@/usecases/audit";
import { ChainCheck } from "./chain-check";

const kindOf = (id: string): string => id.split(":")[0] ?? "";

/** Who did what from where, newest first, and whether the chain holds. */
export function JournalView({ journal }: { readonly journal: Journal }) {
  const { people, refusals } = journal;
  return (
    <>
      <ChainCheck checked={journal.checked} kept={journal.kept} head={journal.head} />
      <ol>
        {journal.rows.map((row) => (
          <ListLine key={row.seq} margin={<Moment at={row.at} />}>
            <span className="figures">{row.seq}</span> · {journalWords[row.action] ?? "Something was refused"}{" "}
            <Soft>
              {kindOf(row.subject)}, by {people[row.actor] ?? kindOf(row.actor)} from {row.address}
            </Soft>
          </ListLine>
        ))}
      </ol>
      {refusals.length > 0 && (
        <section>
          <SectionTitle>Refused</SectionTitle>
          <ul>
            {refusals.map(({ useCase, actor, count, lastAt, address }) => (
              <ListLine key={`${useCase} ${actor}`} margin={<Moment at={lastAt} />}>
                {useCase.replaceAll("-", " ")}, {count === 1 ? "once" : `${count} times`}{" "}
                <Soft>
                  asked for by {people[actor] ?? actor}, last from {address}
                </Soft>
              </ListLine>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
