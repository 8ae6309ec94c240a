const escaped = (text: string): string =>
  text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;");

/**
 * A letter's text as the HTML part beside it (RFC 2046 multipart/alternative): the same words, its paragraphs as
 * paragraphs, each running as it is written, and its links to press. Nothing is loaded from anywhere: the practice's
 * picture comes with the letter.
 *
 * @param logo its Content-ID (RFC 2392), where there is one
 */
export function htmlPart(body: string, logo?: string): string {
  const line = (text: string): string =>
    text
      .split(/(https?:\/\/[^\s<>"]+)/)
      .map((piece, index) => (index % 2 === 1 ? `<a href="${escaped(piece)}">${escaped(piece)}</a>` : escaped(piece)))
      .join("");
  const paragraphs = body
    .split(/\n{2,}/)
    .map((paragraph) => `<p dir="auto">${paragraph.split("\n").map(line).join("<br>")}</p>`)
    .join("\n");
  const picture =
    logo === undefined
      ? ""
      : `<p><img src="cid:${escaped(logo)}" alt="" style="max-height: 3em; max-width: 12em"></p>\n`;
  return `<!DOCTYPE html>\n<html><head><meta charset="utf-8"></head><body style="font: 16px/1.5 sans-serif; max-width: 36em">\n${picture}${paragraphs}\n</body></html>`;
}
