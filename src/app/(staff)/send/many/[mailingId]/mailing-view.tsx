"use client";
import { Link } from "@/ui/kit/link";
import { useRouter } from "next/navigation";
import { useEffect } from "react";
import type { MailingState } from "@/core/packet";
import { ActionForm } from "@/ui/kit/form";
import { MarginRow, Page, Soft, Stack } from "@/ui/kit/page";
import { Progress } from "@/ui/kit/progress";
import { Moment } from "@/ui/kit/time";
import type { MailingView as Mailing } from "@/usecases/sending";
import { stopMailingAction } from "../actions";

const words: Readonly<Record<MailingState, string>> = {
  waiting: "Waiting",
  sent: "Written to",
  unreachable: "Could not be reached",
  failed: "Not written to",
  "left-out": "Left out",
};
export interface MailingViewProps {
  readonly mailing: Mailing;
}
const lookAgainMs = 1000;
/** How far a mailing has come. It goes on by itself; this page may be left and found again. */
export function MailingView({ mailing }: MailingViewProps) {
  const router = useRouter();
  useEffect(() => {
    if (mailing.over) return;
    const timer = setInterval(() => router.refresh(), lookAgainMs);
    return () => clearInterval(timer);
  }, [mailing.over, router]);
  const { tally } = mailing;
  const all = Object.values(tally).reduce((sum, n) => sum + n, 0);
  const sent = tally.sent ?? 0;
  const done = all - (tally.waiting ?? 0);
  const odd = done - sent;
  const stateWords = () => {
    if (mailing.stopped) return "Stopped";
    if (mailing.over) return "Done";
    return "Under way";
  };
  return (
    <Page
      title={mailing.titles.join(", ")}
      margin={
        <>
          <Moment at={mailing.createdAt} />
          <br />
          by <bdi>{mailing.by}</bdi>
        </>
      }
      actions={<Link href="/send/many">Send to many</Link>}
    >
      <MarginRow margin={stateWords()}>
        <Stack>
          <div>
            <Progress label="Written to" done={done} all={all} />
            <p role="status">
              {sent} of {all} written to{odd > 0 ? `, ${odd} not` : ""}.
            </p>
          </div>
          {!mailing.over && (
            <>
              <Soft>You may leave this page: it goes on. Nobody is written to twice.</Soft>
              <ActionForm
                action={stopMailingAction}
                submit="Stop here"
                weight="plain"
                hidden={{ mailingId: mailing.id }}
              />
            </>
          )}
        </Stack>
      </MarginRow>
      {mailing.odd.map((p, i) => (
        <MarginRow key={i} margin={words[p.state]} tone="attention">
          <bdi>{p.name}</bdi>
        </MarginRow>
      ))}
      {odd > mailing.odd.length && <MarginRow margin="">and {odd - mailing.odd.length} more</MarginRow>}
      <ul>
        {mailing.sent.map((part, index) => (
          <li key={index}>
            <MarginRow margin={words[part.state]}>
              {part.packetId ? (
                <Link href={`/packets/${part.packetId}`}>
                  <bdi>{part.name}</bdi>
                </Link>
              ) : (
                <bdi>{part.name}</bdi>
              )}
            </MarginRow>
          </li>
        ))}
      </ul>
      {mailing.next !== undefined && (
        <MarginRow margin="">
          <Link href={`/send/many/${mailing.id}?from=${mailing.next}`}>Further names</Link>
        </MarginRow>
      )}
    </Page>
  );
}
