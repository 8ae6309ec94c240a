import { plainLetters as plain } from "../shared";
import type { ClientIdentity } from "./identity";

const digits = (text: string): string => text.replace(/\D/g, "");
/** A day typed as people type it (17.4.1991, 17/04/91, 1991-04-17), as YYYY-MM-DD; day before month. */
function dayTyped(text: string): string | undefined {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  const local = /^(\d{1,2})[./](\d{1,2})[./](\d{4}|\d{2})$/.exec(text);
  const two = (n: string): string => n.padStart(2, "0");
  if (iso) return `${iso[1]}-${two(iso[2]!)}-${two(iso[3]!)}`;
  return local ? `${local[3]!.length === 2 ? ".." : ""}${local[3]}-${two(local[2]!)}-${two(local[1]!)}` : undefined;
}

/** Whether all of what was typed is found in somebody's name, e-mail, phone or birth date. Nothing typed finds everybody. */
export function matchesPerson(person: ClientIdentity, sought: string): boolean {
  const names = plain(`${person.firstName} ${person.lastName} ${person.preferredName ?? ""}`);
  const mail = plain(person.email ?? "");
  const phone = digits(person.phone ?? "");
  if (/^[\d\s()+./-]+$/.test(sought) && !dayTyped(sought.trim()) && digits(sought).length >= 3)
    return phone.includes(digits(sought).replace(/^0+/, ""));
  return plain(sought)
    .split(/\s+/)
    .every((word) => {
      const day = dayTyped(word);
      if (day) return day.startsWith("..") ? person.birthDate?.slice(2) === day.slice(2) : person.birthDate === day;
      return names.includes(word) || mail.includes(word);
    });
}

export type Likeness = "email" | "phone" | "name" | "name-and-birth-date";
/** Why a new person may be somebody who is here already; none when nothing speaks for it. Another birth date speaks against the name. */
export function likeness(fresh: ClientIdentity, known: ClientIdentity): Likeness[] {
  const name = (p: ClientIdentity): string => plain(`${p.firstName} ${p.lastName}`).replace(/[^\p{L}\p{N}]+/gu, " ");
  const [left, right] = [name(fresh), name(known)];
  const turned = right.split(" ").reverse().join(" ");
  const near = left === right || left === turned || (Math.min(left.length, right.length) >= 6 && oneSlip(left, right));
  const tail = (p: ClientIdentity): string => digits(p.phone ?? "").slice(-9);
  const dates = fresh.birthDate && known.birthDate;
  return [
    ...(fresh.email && plain(fresh.email) === plain(known.email ?? "") ? (["email"] as const) : []),
    ...(tail(fresh).length >= 7 && tail(fresh) === tail(known) ? (["phone"] as const) : []),
    ...(near && (!dates || fresh.birthDate === known.birthDate)
      ? ([dates ? "name-and-birth-date" : "name"] as const)
      : []),
  ];
}
/** One letter added, left out, changed, or two neighbours swapped. */
function oneSlip(left: string, right: string): boolean {
  if (Math.abs(left.length - right.length) > 1) return false;
  let index = 0;
  while (index < left.length && left[index] === right[index]) index++;
  const [across, down] = [left.slice(index), right.slice(index)];
  return (
    across.slice(1) === down.slice(1) ||
    across.slice(1) === down ||
    across === down.slice(1) ||
    (across.length > 1 && across[0] === down[1] && across[1] === down[0] && across.slice(2) === down.slice(2))
  );
}
