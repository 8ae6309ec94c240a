"use server";
import { useCases } from "@/server";
import { doorCookie, dropCookie } from "../../../_server/request";
import { runAsClient } from "../../../_server/run";

/** Ends the pass of a device that was handed over. */
export async function shutAction(packetId: string): Promise<void> {
  await runAsClient(packetId, useCases.giveBack, {});
  await dropCookie(doorCookie, `/f/${packetId}`);
}
