"use client";
import { useState, useTransition } from "react";
import type { Door } from "@/core/packet";
import type { Id } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { RadioGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Soft, Stack } from "@/ui/kit/page";
import type { PacketJourney } from "@/usecases/sending";
import { NewRelation } from "../../send/new-relation";
import { copyLinkAction, giveLinkAction } from "./actions";
import type { PacketViewProps } from "./packet-view";

const linkWords: Readonly<Record<Door["way"], string>> = {
  code: "Whoever opens it still has to prove who they are: a code goes to the contact on file, not to where you send the link.",
  details: "Whoever opens it still has to prove who they are, by details that both of you know.",
  "read-out": "Whoever opens it still has to prove who they are, by a code that you read out to them.",
  none: "Its door stands open: whoever has this link gets in. Give it to nobody else.",
};
interface MadeLink {
  readonly link: string;
  readonly way: Door["way"];
}

/** Who has a link, and a link for somebody more or for a channel of one's own. */
export function PacketLinks({ packet, requestId }: PacketViewProps) {
  const [copied, setCopied] = useState<MadeLink & { readonly name: string }>();
  const mine = holdersOf(packet);
  return (
    <MarginRow margin="Links">
      <Stack $gap="0.4rem">
        {mine.length === 0 && <p>Nobody has one any more.</p>}
        <ul>
          {mine.map((person) => (
            <li key={person.relationId ?? "client"}>
              <Cluster $gap="0 0.75rem">
                <span>
                  <bdi>{person.name}</bdi>{" "}
                  <Soft>
                    {person.kind && person.kind !== "client" ? `${person.kind}, ` : ""}
                    {person.role === "fills" ? "fills in" : "reads only"}
                    {person.masked ? `, ${person.masked}` : ""}
                  </Soft>
                </span>
                <CopyLink
                  packetId={packet.id}
                  person={person}
                  onLink={(made) => setCopied({ name: person.name, ...made })}
                />
              </Cluster>
            </li>
          ))}
        </ul>
        {copied && (
          <Notice tone="attention">
            <Stack $gap="0.5rem">
              <strong>
                A link of <bdi>{copied.name}</bdi>’s own. It is shown this once.
              </strong>
              <TextField label="Their link" value={copied.link} onChange={() => undefined} dir="ltr" />
              <span>{linkWords[copied.way]}</span>
            </Stack>
          </Notice>
        )}
        <Cluster $gap="0.2rem 1.5rem">
          <Fold>
            <summary>Give somebody else a link</summary>
            <OtherLinks packet={packet} requestId={requestId} />
          </Fold>
          <Link href={`/people/${packet.clientId}/reach`}>Contact details</Link>
        </Cluster>
      </Stack>
    </MarginRow>
  );
}
/** Who has a link, or, before anybody has, whom it is for. */
function holdersOf({ people, others, recipient }: PacketJourney) {
  const live = people.filter((person) => person.live);
  if (live.length > 0 || recipient.ended) return live;
  const meant = others.find((other) => other.name === recipient.name) ?? others[0]!;
  return [{ ...meant, role: "fills" as const, live: true }];
}

function OtherLinks({ packet, requestId }: PacketViewProps) {
  return (
    <Stack>
      <p>
        They get one copy together. Each has a link and a door check of their own, sees what the others write, and every
        answer shows who gave it.
      </p>
      {packet.others.map((other) => (
        <ActionForm
          key={other.relationId ?? "client"}
          action={giveLinkAction}
          submit={`Send ${other.name} a link`}
          weight="plain"
          disabled={!other.masked}
          hidden={{
            packetId: packet.id,
            requestId: `${(other.relationId ?? packet.clientId).slice(0, 8)}${requestId.slice(8)}`,
            relationId: other.relationId ?? "",
          }}
        >
          <RadioGroup
            name="role"
            inline
            label={`${other.name}, ${other.kind}${other.masked ? `, ${other.masked}` : ", cannot be reached"}`}
            defaultValue="fills"
            options={[
              { value: "fills", label: "Fills in" },
              { value: "reads", label: "Reads only" },
            ]}
          />
        </ActionForm>
      ))}
      <NewRelation key={packet.others.length} clientId={packet.clientId} requestId={requestId} />
    </Stack>
  );
}

interface CopyLinkProps {
  readonly packetId: Id<"Packet">;
  readonly person: Pick<PacketJourney["people"][number], "relationId" | "name" | "role">;
  readonly onLink: (made: MadeLink) => void;
}
function CopyLink({ packetId, person, onLink }: CopyLinkProps) {
  const [busy, start] = useTransition();
  const [said, setSaid] = useState<string>();
  const copy = async (): Promise<void> => {
    const made = await copyLinkAction({ packetId, relationId: person.relationId, role: person.role });
    if (typeof made === "string") {
      setSaid(made);
      return;
    }
    onLink(made);
    await navigator.clipboard.writeText(made.link).then(
      () => setSaid("Copied."),
      () => setSaid(undefined),
    );
  };
  return (
    <>
      <Button
        weight="quiet"
        busy={busy}
        aria-label={`Copy a link for ${person.name}`}
        onPress={() => start(async () => copy())}
      >
        Copy a link
      </Button>
      {said && <Soft role="status">{said}</Soft>}
    </>
  );
}
