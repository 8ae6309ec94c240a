import "server-only";
import { cookies, headers } from "next/headers";
import { application, clientActor, staffActor, type Application } from "@/server";
import { instantMs, type Instant } from "@/core/shared";
import { doorCookie, knownCookie, linkCookie, staffCookie } from "./cookie-names";

export { deviceCookie, doorCookie, halfwayCookie, knownCookie, linkCookie, staffCookie } from "./cookie-names";

/** Where the request came from, as server.mjs saw it. */
export async function requestFrom(): Promise<{ address: string; device: string }> {
  const all = await headers();
  return {
    address: all.get("x-kind-ledger-address") ?? "unknown",
    device: (all.get("user-agent") ?? "").slice(0, 300),
  };
}

/** HttpOnly, SameSite, and Secure everywhere but on localhost over http. @param until by our clock; the browser counts from when it gets it, since its own clock may say otherwise. */
export async function setCookie(
  app: Application,
  name: string,
  value: string,
  path: string,
  until?: Instant,
): Promise<void> {
  (await cookies()).set(name, value, {
    httpOnly: true,
    sameSite: "lax",
    secure: app.ports.origin.startsWith("https://"),
    path,
    ...(until ? { maxAge: Math.max(0, Math.round((instantMs(until) - instantMs(app.ports.clock.now())) / 1000)) } : {}),
  });
}

export async function currentStaff() {
  const app = await application();
  return staffActor(app, (await cookies()).get(staffCookie)?.value, await requestFrom());
}
export async function currentClient(packetId: string) {
  const app = await application();
  return clientActor(app, packetId, (await cookies()).get(doorCookie)?.value, await requestFrom());
}
export const linkPass = async (): Promise<string | undefined> => (await cookies()).get(linkCookie)?.value;
export const knownPass = async (): Promise<string | undefined> => (await cookies()).get(knownCookie)?.value;
