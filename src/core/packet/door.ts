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
  /** A code is sent as the page opens, not only at a press. */
  readonly atOnce?: boolean;
}
export const startingDoor: DoorPolicy = { way: "contact", ifMissing: "read-out", details: "last-name", hours: 12 };

export type Door = (
  | { readonly way: "code"; readonly channel: "email" | "text"; readonly to: string }
  | { readonly way: "details"; readonly details: DoorPolicy["details"] }
  | { readonly way: "read-out" | "none" }
) & {
  /** What is not on file, so that the way that was chosen cannot be gone. */
  readonly missing?: "contact" | "email" | "phone" | "details";
};

/** What is known of somebody who comes to the door. */
export interface DoorPerson {
  readonly email?: string | undefined;
  readonly phone?: string | undefined;
  readonly contact: { readonly channel: "email" | "text"; readonly to: string } | undefined;
  /** The client's details that this practice asks are on file; see `detailsOnFile`. */
  readonly details: boolean;
}
/**
 * What applies to one person: the packet's own way or the practice's, and the practice's stand-in where what it needs
 * is not on file. What staff are told before they send, what the letter says and what stands at the door all come from
 * here.
 * @param holdsChart it begins with what is on file, and so is never opened by the link alone.
 */
export function doorFor(policy: DoorPolicy, own: DoorWay | null, person: DoorPerson, holdsChart = false): Door {
  const chosen = own ?? policy.way;
  const way = chosen === "none" && holdsChart ? "contact" : chosen;
  const instead = (missing: NonNullable<Door["missing"]>): Door =>
    policy.ifMissing === "details" && person.details
      ? { way: "details", details: policy.details, missing }
      : { way: "read-out", missing };
  switch (way) {
    case "contact":
      return person.contact ? { way: "code", ...person.contact } : instead("contact");
    case "email":
      return person.email ? { way: "code", channel: "email", to: person.email } : instead("email");
    case "text":
      return person.phone ? { way: "code", channel: "text", to: person.phone } : instead("phone");
    case "details":
      return person.details ? { way, details: policy.details } : { way: "read-out", missing: "details" };
    case "read-out":
    case "none":
      return { way };
  }
}

const letters = (text: string): string =>
  text
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLocaleLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");
interface OnFile {
  readonly birthDate?: string | undefined;
  readonly lastName: string;
  readonly address?: string | undefined;
}
/** Whether both details that would be asked are known: else a true answer would count as a wrong one. */
export const detailsOnFile = (details: DoorPolicy["details"], { birthDate, lastName, address }: OnFile): boolean =>
  birthDate !== undefined &&
  (details === "last-name"
    ? letters(lastName) !== ""
    : (address ?? "").split(/[,\n]/).some((line) => letters(line).length >= 4 && /\d/.test(line)));
/**
 * Whether both details are what is on file. Where either is not on file, nothing matches: an empty chart opens no door.
 */
export function detailsMatch(
  details: DoorPolicy["details"],
  given: { readonly birthDate: string; readonly word: string },
  onFile: OnFile,
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
