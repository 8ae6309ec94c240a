"use client";
import { Link } from "@/ui/kit/link";
import type { PostPurpose, PostSimulation, PostState } from "@/core/messages";
import { ActionForm } from "@/ui/kit/form";
import { Cluster, MarginRow, Page, Soft, Stack } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import { Moment } from "@/ui/kit/time";
import { simulateAction, tryAgainAction } from "./actions";
import type { PostLine } from "@/usecases/sending";
import styled from "styled-components";
import { ListLine } from "@/ui/kit/ledger";

const purposes: Readonly<Record<PostPurpose, string>> = {
  opened: "A client opened by a colleague",
  bounced: "A letter that bounced",
  alert: "To read first",
  packet: "Personal link",
  nudge: "Reminder",
  "sent-back": "Sent back",
  sign: "To sign",
  signed: "Signed copy",
  "take-home": "Take-home",
  contact: "Changed contact told",
  test: "Test",
  code: "Door code",
  locked: "Lock told to the practice",
  "try-out": "Letter to oneself",
  invite: "Invitation to a colleague",
  reset: "New password",
  tried: "Wrong passwords told",
  anchor: "The journal’s anchor",
};
export const postStateWords: Readonly<Record<PostState, string>> = {
  queued: "queued",
  sending: "being sent",
  delivered: "delivered",
  bounced: "bounced",
  unsure: "may have arrived",
};
const simulations: Readonly<Record<PostSimulation, string>> = {
  deliver: "deliver everything",
  bounce: "bounce everything",
  slow: "are slow: nothing is taken for now",
};
export interface PostRoomViewProps {
  readonly simulation: PostSimulation;
  readonly maySimulate: boolean;
  /** Mail goes out by a server outside. */
  readonly real: boolean;
  readonly messages: readonly PostLine[];
}
export function PostRoomView({ messages, simulation, maySimulate, real }: PostRoomViewProps) {
  return (
    <Page title="Post room" margin="Newest first">
      <MarginRow margin="Simulation">
        <Stack $gap="0.6rem">
          <p>
            {real
              ? "E-mails go out by the mail server of this installation; texts end here, on a phone that comes with Kind Ledger."
              : "The mail server and phone that come with Kind Ledger. Messages end here and leave no machine; open one to see it as the person would."}
          </p>
          {maySimulate && (
            <div>
              <p>They {simulations[simulation]}.</p>
              <Cluster>
                {(Object.keys(simulations) as PostSimulation[])
                  .filter((s) => s !== simulation)
                  .map((step) => (
                    <ActionForm
                      key={step}
                      action={simulateAction}
                      submit={`Make them ${step === "slow" ? "slow" : simulations[step]}`}
                      weight="quiet"
                      hidden={{ simulation: step }}
                    />
                  ))}
              </Cluster>
            </div>
          )}
        </Stack>
      </MarginRow>
      {messages.length === 0 && (
        <MarginRow margin="">
          <p>
            Nothing went out yet. Send questionnaires from a visit on the <Link href="/day">Day sheet</Link>.
          </p>
        </MarginRow>
      )}
      <Letters onKeyDown={rowKeys}>
        {messages.map((message) => (
          <ListLine
            key={message.id}
            margin={
              <>
                <Moment at={message.at} />
                <span>
                  {message.openedAt ? "opened" : postStateWords[message.state]}
                  {message.attempts > 1 ? `, ${message.attempts} tries` : ""}
                </span>
              </>
            }
            tone={message.state === "bounced" || message.state === "unsure" ? "attention" : "plain"}
            action={<Again message={message} />}
          >
            <Link href={`/post-room/${message.id}`} data-row>
              {purposes[message.purpose]} for <bdi>{message.toName}</bdi>
            </Link>{" "}
            <Soft>
              {message.channel === "email" ? "e-mail" : "text"} to {message.masked}
            </Soft>
            {message.trouble && message.state !== "delivered" && (
              <div>
                {message.trouble}
                {message.nextAt ? (
                  <>
                    {" "}
                    Tried again <Moment at={message.nextAt} />.
                  </>
                ) : null}
              </div>
            )}
            {message.state === "unsure" && (
              <div>The other side hung up before it said so. Ask before you send it again.</div>
            )}
          </ListLine>
        ))}
      </Letters>
    </Page>
  );
}

function Again({ message }: { readonly message: PostLine }) {
  if (message.state !== "queued" && message.state !== "bounced" && message.state !== "unsure") return null;
  return (
    <ActionForm
      action={tryAgainAction}
      submit={message.state === "queued" ? "Try now" : "Send it again"}
      weight="quiet"
      hidden={{ messageId: message.id }}
    />
  );
}
const Letters = styled.ol`
  --margin-column: 12rem;
`;
