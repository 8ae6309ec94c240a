/** Countries and areas as ISO 3166-1 alpha-2 with their English names, in the order of the names. */
export function countryOptions(): { value: string; label: string }[] {
  const names = new Intl.DisplayNames("en", { type: "region", fallback: "none" });
  const letters = Array.from({ length: 26 }, (_, n) => String.fromCharCode(65 + n));
  return letters
    .flatMap((first) => letters.map((second) => first + second))
    .flatMap((code) => {
      const name = withoutCountry.has(code) ? undefined : names.of(code);
      return name === undefined ? [] : [{ value: code, label: name }];
    })
    .sort((a, b) => a.label.localeCompare(b.label, "en"));
}
/** Codes that `Intl` names and that are no country: unions, the world without one, and codes for testing. */
const withoutCountry = new Set(["EU", "EZ", "UN", "QO", "ZZ", "XA", "XB"]);
