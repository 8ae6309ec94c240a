import type { Instant } from "../shared";
import { valueOn, type Chart } from "./fold";

/** Who the client is, read off the chart: the part that lists, letters and the door check need. */
export interface ClientIdentity {
  readonly firstName: string;
  readonly lastName: string;
  readonly preferredName?: string;
  readonly birthDate?: string;
  readonly email?: string;
  readonly phone?: string;
}
export function identityOf(chart: Chart): ClientIdentity {
  const optional = (key: string): string | undefined => valueOn(chart, key) || undefined;
  const [preferredName, birthDate, email, phone] = ["preferred-name", "birth-date", "email", "phone"].map(optional);
  return {
    firstName: valueOn(chart, "first-name") ?? "",
    lastName: valueOn(chart, "last-name") ?? "",
    ...(preferredName ? { preferredName } : {}),
    ...(birthDate ? { birthDate } : {}),
    ...(email ? { email } : {}),
    ...(phone ? { phone } : {}),
  };
}

interface Named {
  readonly firstName: string;
  readonly lastName: string;
  /** The made-up client to try things on, who is marked wherever they are named. */
  readonly isTest?: boolean;
  /** Nothing of them can be read any more. */
  readonly erasedAt?: Instant | null;
}
export const nameOf = ({ firstName, lastName, isTest = false, erasedAt = null }: Named): string =>
  erasedAt === null ? `${firstName} ${lastName}`.trim() + (isTest ? " (test client)" : "") : "Erased client";

/** Whole years on a day; both days as YYYY-MM-DD. */
export function ageOn(birthDate: string, day: string): number {
  const years = Number(day.slice(0, 4)) - Number(birthDate.slice(0, 4));
  return day.slice(5) < birthDate.slice(5) ? years - 1 : years;
}

export interface Contacts {
  readonly email?: string;
  readonly phone?: string;
}
/** Contact details of somebody: the way they prefer when it is on file, else the other one, else not at all. */
export function contactsOf(
  condition: Contacts,
  prefers: "email" | "text",
): { readonly channel: "email" | "text"; readonly to: string } | undefined {
  const ways = [
    condition.email ? { channel: "email" as const, to: condition.email } : undefined,
    condition.phone ? { channel: "text" as const, to: condition.phone } : undefined,
  ];
  return ways.find((w) => w?.channel === prefers) ?? ways.find((w) => w !== undefined);
}
