/** An address that was typed in lines, as it stands in a row. */
export const onOneLine = (text: string): string =>
  text
    .split("\n")
    .map((line) => line.trim().replace(/,$/, ""))
    .filter(Boolean)
    .join(", ");
