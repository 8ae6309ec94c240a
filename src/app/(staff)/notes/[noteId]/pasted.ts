const unwanted = "script, style, iframe, object, embed, img, svg, math, video, audio, form, link, meta, base, template";
/** Attributes that say what a node is: where a link leads, what is quoted, and the editor's own mark of a copied piece. */
const kept = new Set([
  "href",
  "data-quote",
  "data-kind",
  "data-remark",
  "data-measure",
  "data-pm-slice",
  "colspan",
  "rowspan",
]);

/** What was pasted, without anything that loads or runs: read in a document of its own that does neither. */
export function withoutWhatRuns(html: string): string {
  const read = new DOMParser().parseFromString(html, "text/html");
  for (const element of read.querySelectorAll(unwanted)) element.remove();
  for (const element of read.body.querySelectorAll("*"))
    for (const name of element.getAttributeNames()) if (!kept.has(name)) element.removeAttribute(name);
  return read.body.innerHTML;
}
