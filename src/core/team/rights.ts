import type { Role } from "../shared";

/**
 * What staff may be let do. A role is a set of them, which the practice may narrow or widen; what everybody may do with
 * their own account stands in no set.
 */
export const rights = [
  "day.read",
  "people.read",
  "clients.all",
  "people.write",
  "packet.send",
  "post-room.read",
  "visit.book",
  "library.read",
  "library.write",
  "answers.read",
  "chart.read",
  "chart.post",
  "note.write",
  "export",
  "office.write",
  "staff.manage",
  "journal.read",
  "clients.erase",
] as const;
export type Right = (typeof rights)[number];

export const rightWords: Readonly<Record<Right, string>> = {
  "day.read": "See the Day sheet",
  "people.read": "See who the clients are",
  "clients.all": "See all clients, not only their own",
  "people.write": "Add and change clients",
  "packet.send": "Send questionnaires",
  "post-room.read": "See the Post room",
  "visit.book": "Make, move and cancel visits",
  "library.read": "See the Library",
  "library.write": "Write questionnaires",
  "answers.read": "Read answers",
  "chart.read": "Read charts",
  "chart.post": "Post to charts",
  "note.write": "Write notes",
  export: "Take answers and clients out as files",
  "office.write": "Change how the practice works",
  "staff.manage": "Manage staff and rights",
  "journal.read": "See the journal",
  "clients.erase": "Erase clients, and hold against it",
};
/** Useless without another: whoever has one is given the other too. */
const needs: Partial<Readonly<Record<Right, readonly Right[]>>> = {
  "clients.all": ["people.read"],
  "people.write": ["people.read"],
  "packet.send": ["people.read", "library.read"],
  "office.write": ["day.read"],
  "library.write": ["library.read"],
  "chart.post": ["chart.read", "answers.read"],
  "note.write": ["chart.read", "answers.read"],
  "chart.read": ["people.read"],
  "visit.book": ["day.read", "people.read"],
  export: ["answers.read"],
  // Both name everybody's clients.
  "staff.manage": ["clients.all"],
  "journal.read": ["clients.all"],
  // What is due is everybody's.
  "clients.erase": ["clients.all"],
};

/** A practice's own sets; a role that is missing has the starting one. An owner may everything, always. */
export type RightSets = Readonly<Partial<Record<Exclude<Role, "owner">, readonly Right[]>>>;

export const startingRights: Readonly<Record<Role, readonly Right[]>> = {
  owner: rights,
  office: [
    "day.read",
    "people.read",
    "clients.all",
    "people.write",
    "packet.send",
    "post-room.read",
    "visit.book",
    "library.read",
    "library.write",
    "office.write",
    "journal.read",
  ],
  practitioner: [
    "day.read",
    "people.read",
    "clients.all",
    "people.write",
    "packet.send",
    "post-room.read",
    "visit.book",
    "library.read",
    "library.write",
    "answers.read",
    "chart.read",
    "chart.post",
    "note.write",
    "export",
  ],
  supervisor: ["day.read", "people.read", "clients.all", "library.read", "answers.read", "chart.read"],
};

export const rightsOf = (role: Role, sets: RightSets): readonly Right[] =>
  role === "owner" ? rights : (sets[role] ?? startingRights[role]);

/** The set with what its rights need, in the order of `rights`. */
export function wholeSet(chosen: readonly Right[]): readonly Right[] {
  const whole = new Set<Right>();
  const take = (right: Right): void => {
    if (whole.has(right)) return;
    whole.add(right);
    needs[right]?.forEach(take);
  };
  chosen.forEach(take);
  return rights.filter((right) => whole.has(right));
}
/** The set without a right, and without what would be useless then. */
export const without = (set: readonly Right[], right: Right): readonly Right[] =>
  set.filter((one) => !wholeSet([one]).includes(right));
