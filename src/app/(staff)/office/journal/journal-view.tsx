"use client";
import { journalWords } from "@/core/audit";
import { ListLine } from "@/ui/kit/ledger";
import { Notice } from "@/ui/kit/notice";
import { Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { JournalView as Journal } from "@/usecases/audit";

const kindOf = (id: string): string => id.split(":")[0] ?? "";

/** Who did what from where, newest first, and whether the chain holds. */
export function JournalView({ journal }: { readonly journal: Journal }) {
  return (
    <>
      {journal.firstBroken === undefined ? (
        <Notice tone="settled">
          <strong>Unbroken.</strong> Every row covers the one before it, from the first to the last.
        </Notice>
      ) : (
        <Notice tone="problem">
          <strong>Broken at row {journal.firstBroken}.</strong> Somebody changed the database outside the app.
        </Notice>
      )}
      <ol>
        {journal.rows.map((row) => (
          <ListLine key={row.seq} margin={<Moment at={row.at} />}>
            <span className="figures">{row.seq}</span> · {journalWords[row.action]}{" "}
            <Soft>
              {kindOf(row.subject)}, by {journal.people[row.actor] ?? kindOf(row.actor)} from {row.address}
            </Soft>
          </ListLine>
        ))}
      </ol>
    </>
  );
}
