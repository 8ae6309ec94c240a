const escaped = (text: string): string =>
  text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;");

/**
 * A letter's text as the HTML part beside it (RFC 2046 multipart/alternative): the same words, its paragraphs as
 * paragraphs, each running as it is written, and its links to press. Nothing is loaded from anywhere.
 */
export function htmlPart(body: string): string {
  const line = (text: string): string =>
    text
      .split(/(https?:\/\/[^\s<>"]+)/)
      .map((piece, index) => (index % 2 === 1 ? `<a href="${escaped(piece)}">${escaped(piece)}</a>` : escaped(piece)))
      .join("");
  const paragraphs = body
    .split(/\n{2,}/)
    .map((paragraph) => `<p dir="auto">${paragraph.split("\n").map(line).join("<br>")}</p>`)
    .join("\n");
  return `<!DOCTYPE html>\n<html><head><meta charset="utf-8"></head><body style="font: 16px/1.5 sans-serif; max-width: 36em">\n${paragraphs}\n</body></html>`;
}
