import "server-only";
import { cookies, headers } from "next/headers";
import { application, clientActor, staffActor, type Application } from "@/server";
import { instantMs, laterBy, type Instant } from "@/core/shared";
import {
  cookieName,
  deviceCookie,
  doorCookie,
  isSecure,
  knownCookie,
  linkCookie,
  staffCookie,
  type CookieKind,
} from "./cookie-names";

export { deviceCookie, doorCookie, halfwayCookie, knownCookie, linkCookie, staffCookie } from "./cookie-names";

/** Where the request came from, as server.mjs saw it. */
export async function requestFrom(): Promise<{ address: string; device: string }> {
  const all = await headers();
  return {
    address: all.get("x-kind-ledger-address") ?? "unknown",
    device: (all.get("user-agent") ?? "").slice(0, 300),
  };
}

/**
 * HttpOnly, SameSite, and Secure everywhere but on localhost over http. @param until by our clock; the browser counts
 * from when it gets it, since its own clock may say otherwise.
 */
export async function setCookie(
  app: Application,
  kind: CookieKind,
  value: string,
  path: string,
  until?: Instant,
): Promise<void> {
  (await cookies()).set(cookieName(kind, app.ports.origin), value, {
    httpOnly: true,
    sameSite: "lax",
    secure: isSecure(app.ports.origin),
    path,
    ...(until ? { maxAge: Math.max(0, Math.round((instantMs(until) - instantMs(app.ports.clock.now())) / 1000)) } : {}),
  });
}

export const readCookie = async (kind: CookieKind): Promise<string | undefined> =>
  (await cookies()).get(cookieName(kind, (await application()).ports.origin))?.value;
/** A browser drops a cookie only for the attributes it was set with. */
export async function dropCookie(kind: CookieKind, path = "/"): Promise<void> {
  const app = await application();
  await setCookie(app, kind, "", path, app.ports.clock.now());
}

const daysKnown = 180;
/** What this device is known by when somebody signs in here again. */
export async function keepDevice(device: string | undefined): Promise<void> {
  const app = await application();
  const until = laterBy(app.ports.clock.now(), daysKnown * 24 * 3_600_000);
  if (device !== undefined) await setCookie(app, deviceCookie, device, "/sign-in", until);
}

/** @param isAtWork false for what a page asks by itself. */
export async function currentStaff(isAtWork = true) {
  const app = await application();
  return staffActor(app, await readCookie(staffCookie), await requestFrom(), isAtWork);
}
/** For what answers with a file: the signed-in member of staff, or nobody. */
export async function staffOrNobody() {
  const actor = await currentStaff();
  return actor.kind === "staff" ? actor : undefined;
}
export async function currentClient(packetId: string) {
  const app = await application();
  return clientActor(app, packetId, await readCookie(doorCookie), await requestFrom());
}
export const linkPass = (): Promise<string | undefined> => readCookie(linkCookie);
export const knownPass = (): Promise<string | undefined> => readCookie(knownCookie);
