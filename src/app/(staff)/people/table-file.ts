/** UTF-8, or where it is none, what spreadsheets of Western Europe and America save. */
export function textOfFile(bytes: ArrayBuffer): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}
/** Whether 4/5 is the fifth of April where this is written. */
export const isMonthFirst = (locale: string): boolean => {
  const parts = new Intl.DateTimeFormat(locale).formatToParts(0).map(({ type }) => type);
  return parts.indexOf("month") < parts.indexOf("day") && parts.indexOf("year") > parts.indexOf("day");
};
