"use client";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { PacketJourney } from "@/usecases/sending";
import { unlockAction } from "./actions";
import type { Standing } from "./packet-view";

const fates: Readonly<Record<string, string>> = { bounced: "bounced", unsure: "may not have arrived" };

/** What stands in the way, and what helps. */
export function PacketNotices({ packet, standing }: { readonly packet: PacketJourney; readonly standing: Standing }) {
  const { closed, nobody } = standing;
  const { name } = packet.recipient;
  return (
    <>
      {nobody && !closed && (
        <MarginRow margin="Nobody has it" tone="attention">
          <Notice tone="attention">
            <strong>{name} is no longer around the client, and their link is closed.</strong>{" "}
            {packet.state === "lapsed"
              ? "Extend it, then give somebody else a link"
              : "Give somebody else a link below"}
            , or withdraw it. What was answered before is kept.
          </Notice>
        </MarginRow>
      )}
      {packet.state === "ready" && !nobody && (
        <MarginRow margin="Not sent yet" tone="attention">
          <Notice tone="attention">
            <strong>No letter went out.</strong> Copy a link below and give it to them in your own way, or hand this
            device over to them.
          </Notice>
        </MarginRow>
      )}
      {packet.locked && !closed && (
        <MarginRow margin="Door locked" tone="attention">
          <Notice tone="attention">
            <strong>Five wrong codes were typed, so the page is locked.</strong> Nobody got in. Ask {name} whether it
            was them. If so, unlock it, or send a fresh link; if not, send a fresh link: the old one stops working. What
            was answered before is kept.
          </Notice>
          <ActionForm
            action={unlockAction}
            submit="Unlock: it was them"
            weight="plain"
            hidden={{ packetId: packet.id }}
          />
        </MarginRow>
      )}
      {packet.letters
        .filter((letter) => letter.state !== "delivered")
        .map((letter) => (
          <MarginRow key={letter.id} margin={<Moment at={letter.at} />} tone="attention">
            <Notice tone="attention">
              <strong>A letter {fates[letter.state] ?? "is waiting"}.</strong> {letter.trouble}{" "}
              <Link href="/post-room">Post room</Link>
            </Notice>
          </MarginRow>
        ))}
    </>
  );
}
