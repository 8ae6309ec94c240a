import { measureWords, type NoteLine, type Run } from "./content";

/** Signs that mean something in Markdown (CommonMark 0.31), so that words are read as they were written. */
const plain = (text: string): string => text.replace(/[\\`*_[\]<>#|~&]/g, "\\$&");
/** What begins a line, too: a list, a heading, a rule. */
const atStart = (text: string): string => text.replace(/^(\s*)(?:([-+=])|(\d+)([.)]))(?=\s|$)/, "$1$3\\$2$4");
const inLine = ({ text, bold, italic, href }: Run): string => {
  const around = /^(\s*)([\s\S]*?)(\s*)$/.exec(text)!;
  const [, before = "", words = "", after = ""] = around;
  if (words === "") return text;
  const mark = `${bold ? "**" : ""}${italic ? "*" : ""}`;
  const marked = `${mark}${plain(words)}${[...mark].reverse().join("")}`;
  return `${before}${href === undefined ? marked : `[${marked}](<${href}>)`}${after}`;
};
const runs = (all: readonly Run[]): string => atStart(all.map(inLine).join("")).replaceAll("\n", "\\\n");

/** Lines as Markdown (CommonMark 0.31, tables as in GitHub's): the client's words as quotations. */
export function markdown(lines: readonly NoteLine[]): string {
  const out: string[] = [];
  for (const [index, line] of lines.entries()) {
    const before = lines[index - 1];
    const goesOn = before?.kind === line.kind && (line.kind === "item" || line.kind === "row");
    if (index > 0 && !goesOn) out.push("");
    switch (line.kind) {
      case "heading":
        out.push(`${"#".repeat(line.level)} ${plain(line.text)}`);
        break;
      case "text":
        out.push(runs(line.runs));
        break;
      case "item":
        out.push(
          `${"   ".repeat(line.depth)}${line.number === undefined ? "-" : `${line.number}.`} ${runs(line.runs)}`,
        );
        break;
      case "row":
        out.push(`| ${line.cells.map((cell) => plain(cell).replaceAll("\n", " ")).join(" | ")} |`);
        if (!goesOn) out.push(`|${" --- |".repeat(line.cells.length)}`);
        break;
      case "quoted":
        out.push(`> ${plain(line.quote.question)}  `);
        out.push(
          ...plain(line.quote.answer)
            .split("\n")
            .map((one) => `> **${one}**`),
        );
        if (line.remark !== "") out.push("", runs([{ text: line.remark, bold: false, italic: true, href: undefined }]));
        break;
      case "restated":
        out.push(
          `${plain(line.quote.question)}\\`,
          runs([{ text: line.text, bold: false, italic: false, href: undefined }]),
        );
        break;
      case "measure":
        out.push(plain(measureWords(line.measure)));
        break;
    }
  }
  return out.join("\n");
}
