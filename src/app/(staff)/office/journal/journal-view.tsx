"use client";
import { journalWords } from "@/core/audit";
import { ListLine } from "@/ui/kit/ledger";
import { SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { JournalView as Journal } from "@/usecases/audit";
import { ChainCheck } from "./chain-check";

const kindOf = (id: string): string => id.split(":")[0] ?? "";

/** Rows from before refused calls were counted say so in their own. */
const wordsOf = ({ action }: Journal["rows"][number]): string => journalWords[action] ?? "Something was refused";

/** Who did what from where, newest first, and whether the chain holds. */
export function JournalView({ journal }: { readonly journal: Journal }) {
  const { people, refusals } = journal;
  return (
    <Stack $gap="1.4rem">
      <ChainCheck checked={journal.checked} kept={journal.kept} head={journal.head} />
      <ol>
        {journal.rows.map((row) => (
          <ListLine key={row.seq} margin={<Moment at={row.at} />}>
            <span className="figures">{row.seq}</span> · {wordsOf(row)}{" "}
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
            {refusals.map(({ useCase, actor, count, firstAt, lastAt, address }) => (
              <ListLine key={`${useCase} ${actor}`} margin={<Moment at={lastAt} />}>
                {useCase.replaceAll("-", " ")}, {count === 1 ? "once" : `${count} times`}{" "}
                <Soft>
                  asked for by {people[actor] ?? actor}, last from {address}
                  {count > 1 && (
                    <>
                      , first on <Moment at={firstAt} />
                    </>
                  )}
                </Soft>
              </ListLine>
            ))}
          </ul>
        </section>
      )}
    </Stack>
  );
}
