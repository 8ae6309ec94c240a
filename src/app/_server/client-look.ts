import "server-only";
import { cache } from "react";
import { clientLanguage, isClientLanguage } from "@/i18n/languages";
import { useCases } from "@/server";
import { knownPass, linkPass } from "./request";
import { runAsClient, runAsStranger } from "./run";

// Each asked once a request: for the page, its title, and the language of the document around it.
export const lookAtDoor = cache(async (token: string) =>
  runAsStranger(useCases.openLink, { token, known: await knownPass(), pass: await linkPass() }),
);
export const lookAtPacket = cache((packetId: string) => runAsClient(packetId, useCases.fillView, {}));

/** What a practitioner wrote down for them. */
export const lookAtTakeHome = cache((packetId: string) => runAsClient(packetId, useCases.takeHomeView, {}));
/** What somebody is asked to sign who came by a link for that; and what they agreed to themselves. */
export const lookAtSigning = cache((packetId: string) => runAsClient(packetId, useCases.signerView, {}));
export const lookAtConsents = cache(async (packetId: string) => {
  const found = await runAsClient(packetId, useCases.ownConsents, {});
  return found.ok ? found.value.lines : [];
});

/** The language of the page at this address: a client's where it is theirs, else English. */
export async function languageAt(path: string, chosen: string | null): Promise<string> {
  const [, place, id] = path.split("/");
  if (id === undefined || id === "") return "en";
  if (place === "p") {
    const door = await lookAtDoor(id);
    if (chosen !== null && isClientLanguage(chosen)) return chosen;
    return clientLanguage(door.ok ? door.value.language : "en");
  }
  if (place !== "f") return "en";
  const packet = await lookAtPacket(id);
  const signing = packet.ok ? packet : await lookAtSigning(id);
  if (signing.ok) return clientLanguage(signing.value.language);
  return clientLanguage(packet.ok ? packet.value.language : "en");
}
