/** A cookie of ours: its name, and whether it goes to every page or to some addresses only. */
export interface CookieKind {
  readonly name: string;
  readonly everywhere: boolean;
}
export const staffCookie: CookieKind = { name: "kl_staff", everywhere: true };
export const halfwayCookie: CookieKind = { name: "kl_halfway", everywhere: true };
/** A device that somebody of the practice signed in on before: wrong passwords typed elsewhere hold it up no more. */
export const deviceCookie: CookieKind = { name: "kl_device", everywhere: false };
/** Of one packet, sent to its pages only. */
export const doorCookie: CookieKind = { name: "kl_door", everywhere: false };
/** The pass this device got at one link, sent to that link's door only. */
export const linkCookie: CookieKind = { name: "kl_link", everywhere: false };
/** The newest door pass of this device, sent to the doors only: it may open another packet of the same person. */
export const knownCookie: CookieKind = { name: "kl_known", everywhere: false };

export const isSecure = (origin: string): boolean => origin.startsWith("https://");
/** Over https the browser is asked to see that no other host and no plain connection set it (RFC 6265bis, 4.1.3). */
export function cookieName({ name, everywhere }: CookieKind, origin: string): string {
  if (!isSecure(origin)) return name;
  return everywhere ? `__Host-${name}` : `__Secure-${name}`;
}
/** Out of a Cookie header. */
export const cookieIn = (header: string | null | undefined, kind: CookieKind, origin: string): string | undefined =>
  new RegExp(`(?:^|; )${cookieName(kind, origin)}=([\\w.-]+)`).exec(header ?? "")?.[1];
