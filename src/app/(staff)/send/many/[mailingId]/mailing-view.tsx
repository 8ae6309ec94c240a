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
  const done = mailing.people.filter((p) => p.state !== "waiting").length;
  const sent = mailing.people.filter((p) => p.state === "sent").length;
  const odd = mailing.people.filter((p) => p.state !== "sent" && p.state !== "waiting");
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
            <Progress label="Written to" done={done} all={mailing.people.length} />
            <p role="status">
              {sent} of {mailing.people.length} written to{odd.length > 0 ? `, ${odd.length} not` : ""}.
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
      {odd.map((p, i) => (
        <MarginRow key={i} margin={words[p.state]} tone="attention">
          <bdi>{p.name}</bdi>
        </MarginRow>
      ))}
      <ul>
        {mailing.people
          .filter((p) => p.state === "sent")
          .map((part, index) => (
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
    </Page>
  );
}
