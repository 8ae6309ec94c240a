"use client";
import { Link } from "@/ui/kit/link";
import { ActionForm } from "@/ui/kit/form";
import { Fold, ListLine } from "@/ui/kit/ledger";
import { Cluster, SectionTitle, Soft } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import { nthId } from "@/core/shared";
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
            {chart.mayWrite && posting.kind === "post" && !posting.reversed && (
              <Reversal posting={posting} clientId={chart.clientId} requestId={requestId} />
            )}
          </ListLine>
        ))}
      </ul>
    </section>
  );
}
/** Takes back a posting, whole or by line, with a reason. */
function Reversal({
  posting,
  clientId,
  requestId,
}: {
  readonly posting: Posting;
  readonly clientId: string;
  readonly requestId: string;
}) {
  const hidden = { clientId, postingId: posting.id };
  return (
    <Fold>
      <summary>Reverse</summary>
      <ActionForm action={reverseAction} submit="Reverse this posting" weight="plain" hidden={{ ...hidden, requestId }}>
        <TextField name="reason" label="Why" optional="optional" />
      </ActionForm>
      {posting.lines.length > 1 && (
        <ul>
          {posting.lines.map((line) => (
            <li key={line.seq}>
              <Cluster>
                <span>
                  <Soft>{line.label}</Soft> {line.reversed ? <s>{line.words}</s> : <bdi>{line.words}</bdi>}
                </span>
                {!line.reversed && (
                  <ActionForm
                    action={reverseAction}
                    submit={`Reverse ${line.label} alone`}
                    weight="quiet"
                    hidden={{ ...hidden, requestId: nthId(requestId, line.seq), entry: String(line.seq) }}
                  />
                )}
              </Cluster>
            </li>
          ))}
        </ul>
      )}
    </Fold>
  );
}
