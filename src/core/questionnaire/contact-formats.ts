import { plainDigits } from "../shared";

/** One `@`, a dotted domain, no spaces; delivery is the real test, so nothing stricter (common practice). */
export const isEmail = (text: string): boolean =>
  text.length <= 254 && /^[^\s@"(),:;<>[\]\\]{1,64}@(?:[^\s@.]+\.)+[^\s@.]{2,}$/u.test(text.trim());

/** 7 to 15 digits (ITU-T E.164 allows at most 15), with the signs people write between them. */
export function isPhone(typed: string): boolean {
  const text = plainDigits(typed);
  const digits = text.replace(/\D/g, "");
  return /^\+?[\d\s().\-/]+$/.test(text.trim()) && digits.length >= 7 && digits.length <= 15;
}
