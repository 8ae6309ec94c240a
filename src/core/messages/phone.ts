import { parsePhoneNumberFromString, type CountryCode } from "libphonenumber-js/min";

/**
 * A phone number as ITU-T E.164 writes it: with the country's code, without its nought and without signs. One that is
 * none of that country's stays as it was typed. @param country ISO 3166-1 alpha-2, where numbers without a code belong
 */
export function internationalPhone(typed: string, country: string): string {
  const parsed = parsePhoneNumberFromString(typed, country as CountryCode);
  return parsed?.isPossible() ? parsed.number : typed;
}
