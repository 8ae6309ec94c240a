"use client";
import { Link } from "@/ui/kit/link";
import { ActionForm } from "@/ui/kit/form";
import { ListLine } from "@/ui/kit/ledger";
import { SectionTitle, Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { ChartView } from "@/usecases/charting";
import { reverseAction } from "./actions";
import type { Folios, Posting } from "./folio";

const entriesWords = (count: number): string =>
  count === 0 ? "Settled without changes" : `${count} ${count === 1 ? "entry" : "entries"} posted`;
function wordsOf(posting: Posting): string {
  if (posting.kind === "start") return `Chart begun with ${posting.entries} entries carried over`;
  return posting.kind === "reverse" ? "A posting was reversed" : entriesWords(posting.entries);
}

export interface PostingsProps {
  readonly chart: ChartView;
  readonly folios: Folios;
  readonly requestId: string;
}
/** Every posting by its number; each can be reversed, none is ever deleted. */
export function Postings({ chart, folios, requestId }: PostingsProps) {
  return (
    <section aria-label="Postings">
      <SectionTitle>Postings</SectionTitle>
      <ul>
        {chart.postings.map((posting) => (
          <ListLine
            key={posting.id}
            margin={
              <span id={`posting-${posting.id}`}>
                <strong>{folios.get(posting.id)?.number}</strong> <Moment at={posting.at} as="day" />, {posting.by}
              </span>
            }
            action={
              posting.kind === "post" && !posting.reversed ? (
                <ActionForm
                  action={reverseAction}
                  submit="Reverse this posting"
                  weight="quiet"
                  hidden={{ clientId: chart.clientId, postingId: posting.id, requestId }}
                />
              ) : null
            }
          >
            {posting.reversed ? <s>{wordsOf(posting)}</s> : wordsOf(posting)}
            {posting.reversed ? <Soft> · reversed</Soft> : null}
            {posting.packetId ? (
              <>
                {" "}
                <Soft>
                  · <Link href={`/returns/${posting.packetId}`}>the answers</Link>
                </Soft>
              </>
            ) : null}
          </ListLine>
        ))}
      </ul>
    </section>
  );
}
