/**
 * How somebody proves that a page is theirs. `contact`: a code to where the message went; `read-out`: a code that staff
 * tell them; `details`: what they and the practice both know; `none`: whoever has the link gets in.
 */
export const doorWays = ["contact", "email", "text", "details", "read-out", "none"] as const;
export type DoorWay = (typeof doorWays)[number];
/** What may stand in where the contact that a way needs is missing. Never `none`: a missing contact opens no door. */
export const doorFallbacks = ["read-out", "details"] as const;

export interface DoorPolicy {
  readonly way: DoorWay;
  readonly ifMissing: (typeof doorFallbacks)[number];
  /** What is asked besides the birth date. */
  readonly details: "last-name" | "postcode";
  /** How long a passed door stays open on that device. */
  readonly hours: number;
  /** One passed door also opens this person's other packets of the same client on that device. */
  readonly others?: boolean;
}
export const startingDoor: DoorPolicy = { way: "contact", ifMissing: "read-out", details: "last-name", hours: 12 };

export type Door =
  | { readonly way: "code"; readonly channel: "email" | "text"; readonly to: string }
  | { readonly way: "details"; readonly details: DoorPolicy["details"] }
  | { readonly way: "read-out" | "none" };

/** What applies to one person: the packet's own way or the practice's, and the practice's stand-in where a contact is missing. */
export function doorFor(
  policy: DoorPolicy,
  own: DoorWay | null,
  person: {
    readonly email?: string;
    readonly phone?: string;
    readonly contact: { readonly channel: "email" | "text"; readonly to: string } | undefined;
  },
): Door {
  const plain = (way: "details" | "read-out" | "none"): Door =>
    way === "details" ? { way, details: policy.details } : { way };
  const way = own ?? policy.way;
  switch (way) {
    case "contact":
      return person.contact ? { way: "code", ...person.contact } : plain(policy.ifMissing);
    case "email":
      return person.email ? { way: "code", channel: "email", to: person.email } : plain(policy.ifMissing);
    case "text":
      return person.phone ? { way: "code", channel: "text", to: person.phone } : plain(policy.ifMissing);
    case "details":
    case "read-out":
    case "none":
      return plain(way);
  }
}

const letters = (text: string): string =>
  text
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLocaleLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");
/** Whether both details are what is on file. Where either is not on file, nothing matches: an empty chart opens no door. */
export function detailsMatch(
  details: DoorPolicy["details"],
  given: { readonly birthDate: string; readonly word: string },
  onFile: { readonly birthDate?: string; readonly lastName: string; readonly address?: string | undefined },
): boolean {
  const word = letters(given.word);
  if (!onFile.birthDate || given.birthDate !== onFile.birthDate || word === "") return false;
  if (details === "last-name") return letters(onFile.lastName) === word;
  // A postcode is the words of an address that hold digits, as they stand beside each other.
  return (
    word.length >= 4 &&
    (onFile.address ?? "").split(/[,\n]/).some((line) => letters(line).endsWith(word) && /\d/.test(word))
  );
}
