import { plainLetters as plain } from "../shared";
import type { ClientIdentity } from "./identity";

const digits = (text: string): string => text.replace(/\D/g, "");
/**
 * The birth dates that may be meant by a day typed as people type it, as YYYY-MM-DD: 17.4.1991, 17/04/91 and 1991-04-17
 * are one, 4/5/1991 is two. Undefined for what is no day.
 */
export function birthDatesTyped(text: string): readonly string[] | undefined {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text.trim());
  const local = /^(\d{1,2})[./](\d{1,2})[./](\d{4}|\d{2})$/.exec(text.trim());
  const two = (n: string): string => n.padStart(2, "0");
  if (iso) return [`${iso[1]}-${two(iso[2]!)}-${two(iso[3]!)}`];
  if (!local) return undefined;
  const [, first, second, year] = local as unknown as [string, string, string, string];
  return [
    [first, second],
    [second, first],
  ].flatMap(([day, month]) => (Number(month) <= 12 ? [`${year}-${two(month!)}-${two(day!)}`] : []));
}
/** Whether somebody was born on such a day; a year of two digits stands for either century. */
const bornOn = (birthDate: string | undefined, days: readonly string[]): boolean =>
  birthDate !== undefined && days.some((day) => birthDate.endsWith(day));
/** Digits and what stands between them, enough of them to be a part of a phone number, and no day. */
export const isPhoneTyped = (text: string): boolean =>
  /^[\d\s()+./-]+$/.test(text) && !birthDatesTyped(text) && digits(text).length >= 3;

/** A person as they are compared: made once for many questions. */
export interface Comparable {
  /** First and last name alone, with one blank between words. */
  readonly called: string;
  readonly names: string;
  readonly words: readonly string[];
  readonly mail: string;
  /** Digits of the phone, without noughts before them. */
  readonly phone: string;
  readonly birthDate: string | undefined;
}
export function comparable({
  firstName,
  lastName,
  preferredName,
  email,
  phone,
  birthDate,
}: ClientIdentity): Comparable {
  const names = plain(`${firstName} ${lastName} ${preferredName ?? ""}`);
  return {
    called: plain(`${firstName} ${lastName}`).replace(/[^\p{L}\p{N}]+/gu, " "),
    names,
    words: names.split(/[^\p{L}\p{N}]+/u),
    mail: plain(email ?? ""),
    phone: digits(phone ?? "").replace(/^0+/, ""),
    birthDate,
  };
}

/**
 * Whether digits that were typed are in a phone number: with its country's code or with the nought in front of it,
 * however it is on file.
 */
function phoneTest(typed: string): (there: string) => boolean {
  const plainTyped = digits(typed).replace(/^0+/, "");
  // ITU-T E.164: a country's code has one to three digits, and the nought is dropped behind it.
  const abroad = /^\s*(?:\+|00)/.test(typed) ? digits(typed).replace(/^00/, "") : "";
  const national = [1, 2, 3].map((length) => abroad.slice(length).replace(/^0/, "")).filter((rest) => rest.length >= 2);
  return (there) => there.includes(plainTyped) || national.some((rest) => there.startsWith(rest));
}
const leastForgiven = 4;
/** The beginning of a word that was mistyped once: one letter added, left out, changed or swapped. */
const nearly = (typed: string, word: string): boolean =>
  typed.length >= leastForgiven &&
  // Whatever the slip was, one of the first two letters stands where it belongs, or beside it: said before more is tried.
  (typed[0] === word[0] || typed[1] === word[1] || typed[0] === word[1] || typed[1] === word[0]) &&
  [-1, 0, 1].some((more) => word.length >= typed.length + more && oneSlip(typed, word.slice(0, typed.length + more)));

/**
 * What tells whether all of what was typed is found in somebody's name, e-mail, phone or birth date. Nothing typed
 * finds everybody. @param forgiving one slip in each word of a name is forgiven.
 */
export function personTest(sought: string, forgiving = false): (person: Comparable) => boolean {
  if (isPhoneTyped(sought)) {
    const inPhone = phoneTest(sought);
    return ({ phone }) => inPhone(phone);
  }
  const parts = plain(sought)
    .split(/\s+/)
    .map((word) => ({ word, days: birthDatesTyped(word) }));
  return ({ names, words, mail, birthDate }) =>
    parts.every(({ word, days }) =>
      days
        ? bornOn(birthDate, days)
        : names.includes(word) || mail.includes(word) || (forgiving && words.some((name) => nearly(word, name))),
    );
}
export type Likeness = "email" | "phone" | "name" | "name-and-birth-date";
/**
 * Why a new person may be somebody who is here already; none when nothing speaks for it. Another birth date speaks
 * against the name.
 */
export function likeness(fresh: Comparable, known: Comparable): Likeness[] {
  const [left, right] = [fresh.called, known.called];
  const turned = right.split(" ").reverse().join(" ");
  const near =
    left === right ||
    left === turned ||
    (Math.min(left.length, right.length) >= 6 && oneSlip(left, right)) ||
    wordsNear(left, right) ||
    wordsNear(left, turned);
  const dates = fresh.birthDate && known.birthDate;
  const [tail, other] = [fresh.phone.slice(-9), known.phone.slice(-9)];
  return [
    ...(fresh.mail !== "" && fresh.mail === known.mail ? (["email"] as const) : []),
    ...(tail.length >= 7 && tail === other ? (["phone"] as const) : []),
    ...(near && (!dates || fresh.birthDate === known.birthDate)
      ? ([dates ? "name-and-birth-date" : "name"] as const)
      : []),
  ];
}
const phoneTail = ({ phone = "" }: ClientIdentity): string => digits(phone).slice(-9);
/** By what somebody may be the same person as another: those who share none are different people. */
export function sameKeys(person: ClientIdentity): string[] {
  const tail = phoneTail(person);
  const words = plain(`${person.firstName} ${person.lastName}`)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
  return [
    ...(person.email ? [`mail ${plain(person.email)}`] : []),
    ...(tail.length >= 7 ? [`phone ${tail}`] : []),
    ...(words.length > 0 ? [`name ${words.toSorted().join(" ")}`] : []),
  ];
}
/** Of two who share a key: the same e-mail, the same phone, or the same name and no other birth date. */
export function isSame(left: ClientIdentity, right: ClientIdentity): boolean {
  const shared = sameKeys(left).filter((key) => sameKeys(right).includes(key));
  const dates = left.birthDate !== undefined && right.birthDate !== undefined;
  const born = dates && left.birthDate !== right.birthDate;
  return shared.some((key) => !key.startsWith("name ")) || (shared.length > 0 && !born);
}

/**
 * As many words, each the same or, where it is long enough to tell, mistyped once: "Inez Halvorson" beside "Ines
 * Halvorsen".
 */
function wordsNear(left: string, right: string): boolean {
  const [here, there] = [left.split(" "), right.split(" ")];
  return (
    here.length === there.length &&
    here.length > 1 &&
    here.every((word, index) => {
      const other = there[index]!;
      return word === other || (Math.min(word.length, other.length) >= leastForgiven && oneSlip(word, other));
    })
  );
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
