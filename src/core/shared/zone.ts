/** A zone of the IANA time zone database, as this machine knows it. */
export function isZone(zone: string): boolean {
  try {
    return new Intl.DateTimeFormat("en", { timeZone: zone }).resolvedOptions().timeZone !== "" && zone.includes("/");
  } catch {
    return false;
  }
}
