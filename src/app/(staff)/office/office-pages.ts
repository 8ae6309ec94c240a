import type { Right } from "@/core/team";

/** The pages of Office, and what one may to open them; without a right, everybody does. */
export const officePages: readonly {
  readonly href: string;
  readonly name: string;
  readonly right: Right | undefined;
}[] = [
  { href: "/office", name: "Practice and sign-in", right: undefined },
  { href: "/office/staff", name: "Staff", right: "staff.manage" },
  { href: "/office/visit-types", name: "Kinds of visit", right: "office.write" },
  { href: "/office/door", name: "Door check", right: "office.write" },
  { href: "/office/pages", name: "Clients’ pages", right: "office.write" },
  { href: "/office/signatures", name: "Signatures", right: "office.write" },
  { href: "/office/wordings", name: "Letters and texts", right: "office.write" },
  { href: "/office/fields", name: "Chart fields", right: "office.write" },
  { href: "/office/measures", name: "Measures and alerts", right: "office.write" },
  { href: "/office/layouts", name: "Note layouts", right: "note.write" },
  { href: "/office/retention", name: "Keeping and erasing", right: "clients.erase" },
  { href: "/office/journal", name: "Journal", right: "journal.read" },
];
