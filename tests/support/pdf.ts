import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/**
 * A PDF written by hand after ISO 32000-1, with none of the libraries that the app reads it with. Objects are numbered
 * from 1; 1 is the catalog.
 */
export function rawPdf(objects: readonly string[]): Uint8Array {
  let body = "%PDF-1.7\n%\u00e2\u00e3\u00cf\u00d3\n";
  const offsets = objects.map((object, i) => {
    const at = body.length;
    body += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const table = body.length;
  body += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${offsets.map((o) => `${String(o).padStart(10, "0")} 00000 n \n`).join("")}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`;
  return new Uint8Array(Buffer.from(body, "latin1"));
}

const on = (name: string): string => `/AP << /N << /${name} 7 0 R /Off 7 0 R >> >>`;
/**
 * "Sleep diary": two pages; fields of each kind, written down in an order that is not the reading order.
 * `catalog` and `extra` go into the catalog and behind the objects (the next number is 20).
 */
export const sleepDiary = (catalog = "", extra: readonly string[] = []): Uint8Array =>
  rawPdf([
    `<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [11 0 R 8 0 R 9 0 R 10 0 R 12 0 R 13 0 R 16 0 R] /DA (/Helv 11 Tf 0 g) /DR << /Font << /Helv 6 0 R >> >> >> ${catalog} >>`,
    "<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 5 0 R /Resources << /Font << /Helv 6 0 R >> >> /Annots [8 0 R 9 0 R 10 0 R 11 0 R 14 0 R 15 0 R] >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Annots [12 0 R 13 0 R] >>",
    "<< /Length 44 >>\nstream\nBT /Helv 20 Tf 60 780 Td (Sleep diary) Tj ET\nendstream",
    "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>",
    "<< /Type /XObject /Subtype /Form /BBox [0 0 12 12] /Length 0 >>\nstream\n\nendstream",
    // In one line, the right one first in the file.
    "<< /Type /Annot /Subtype /Widget /FT /Tx /T (up_at) /TU (When did you get up?) /Rect [300 700 400 720] /P 3 0 R /MaxLen 5 /F 4 /DA (/Helv 11 Tf 0 g) >>",
    "<< /Type /Annot /Subtype /Widget /FT /Tx /T (bed_at) /TU (When did you go to bed?) /Rect [60 703 160 721] /P 3 0 R /Ff 2 /F 4 /DA (/Helv 11 Tf 0 g) >>",
    `<< /Type /Annot /Subtype /Widget /FT /Btn /T (wokeAtNight) /Rect [60 640 72 652] /P 3 0 R /F 4 /V /Off /AS /Off ${on("Yes")} >>`,
    "<< /Type /Annot /Subtype /Widget /FT /Ch /Ff 131072 /T (place) /TU (Where did you sleep?) /Opt [(My own bed) (Elsewhere)] /Rect [60 600 200 620] /P 3 0 R /F 4 /DA (/Helv 11 Tf 0 g) >>",
    "<< /Type /Annot /Subtype /Widget /FT /Tx /Ff 4096 /T (thoughts) /TU (What went through your mind?) /Rect [60 500 500 700] /P 4 0 R /F 4 /DA (/Helv 11 Tf 0 g) >>",
    "<< /Type /Annot /Subtype /Widget /FT /Tx /Ff 1 /T (office) /TU (For the practice) /Rect [60 60 200 80] /P 4 0 R /F 4 /DA (/Helv 11 Tf 0 g) >>",
    `<< /Type /Annot /Subtype /Widget /Parent 16 0 R /Rect [60 550 72 562] /P 3 0 R /F 4 /AS /Off ${on("Well")} >>`,
    `<< /Type /Annot /Subtype /Widget /Parent 16 0 R /Rect [120 550 132 562] /P 3 0 R /F 4 /AS /Off ${on("Badly")} >>`,
    "<< /FT /Btn /Ff 49152 /T (slept) /TU (How did you sleep?) /Kids [14 0 R 15 0 R] /V /Off >>",
    "<< >>",
    "<< >>",
    "<< >>",
    ...extra,
  ]);
/** "Our terms": a field for a name, a tick, and two places to sign, one of which is on the second page. */
export const termsSheet = (): Uint8Array =>
  rawPdf([
    "<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [7 0 R 8 0 R 9 0 R 10 0 R] /DA (/Helv 11 Tf 0 g) /DR << /Font << /Helv 6 0 R >> >> >> >>",
    "<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 5 0 R /Resources << /Font << /Helv 6 0 R >> >> /Annots [7 0 R 8 0 R 9 0 R] >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Annots [10 0 R] >>",
    "<< /Length 55 >>\nstream\nBT /Helv 20 Tf 60 780 Td (Our terms of the sheet) Tj ET\nendstream",
    "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>",
    "<< /Type /Annot /Subtype /Widget /FT /Tx /T (called) /TU (What are you called?) /Rect [60 700 260 720] /P 3 0 R /F 4 /DA (/Helv 11 Tf 0 g) >>",
    `<< /Type /Annot /Subtype /Widget /FT /Btn /T (agreed) /TU (I agree) /Rect [60 640 72 652] /P 3 0 R /F 4 /V /Off /AS /Off /AP << /N << /Yes 11 0 R /Off 11 0 R >> >> >>`,
    "<< /Type /Annot /Subtype /Widget /FT /Sig /T (client_signs) /TU (The client) /Rect [60 100 240 150] /P 3 0 R /F 4 >>",
    "<< /Type /Annot /Subtype /Widget /FT /Sig /T (practice_signs) /TU (The practice) /Rect [300 100 480 150] /P 4 0 R /F 4 >>",
    "<< /Type /XObject /Subtype /Form /BBox [0 0 12 12] /Length 0 >>\nstream\n\nendstream",
  ]);
/** A page and nothing to fill in. */
export const plainSheet = (): Uint8Array =>
  rawPdf([
    "<< /Type /Catalog /Pages 2 0 R >>",
    "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] >>",
  ]);

const folder = mkdtempSync(join(tmpdir(), "kl-pdf-"));
let made = 0;
/** Where it lies as a file. */
export const onDisk = (bytes: Uint8Array): string => {
  const path = join(folder, `${made++}.pdf`);
  writeFileSync(path, bytes);
  return path;
};
/** The same file as qpdf writes it anew: encrypted, packed… */
export function throughQpdf(bytes: Uint8Array, ...options: string[]): Uint8Array {
  const out = join(folder, `${made++}.pdf`);
  execFileSync("qpdf", [...options, onDisk(bytes), out]);
  return new Uint8Array(readFileSync(out));
}
/** What qpdf says stands in the fields, by their full names. */
export function fieldsByQpdf(bytes: Uint8Array): Record<string, unknown> {
  const json = JSON.parse(
    execFileSync("qpdf", ["--json", "--json-key=acroform", onDisk(bytes)], { encoding: "utf8", maxBuffer: 50_000_000 }),
  ) as { acroform: { fields: { fullname: string; value: unknown }[] } };
  return Object.fromEntries(
    json.acroform.fields.map((f) => [f.fullname, typeof f.value === "string" ? f.value.replace(/^u:/, "") : f.value]),
  );
}
export const textByPoppler = (bytes: Uint8Array): string =>
  execFileSync("pdftotext", ["-layout", onDisk(bytes), "-"], { encoding: "utf8" });
export const checkByQpdf = (bytes: Uint8Array): string =>
  execFileSync("qpdf", ["--check", onDisk(bytes)], { encoding: "utf8" });
/** What a tagged PDF says it reads, block by block, as qpdf finds it from the root of its structure. */
export function taggedWords(bytes: Uint8Array): string[] {
  const json = JSON.parse(
    execFileSync("qpdf", ["--json=2", "--json-key=qpdf", onDisk(bytes)], { encoding: "utf8", maxBuffer: 50_000_000 }),
  ) as { qpdf: [unknown, Record<string, { value?: Record<string, unknown> }>] };
  const objects = json.qpdf[1];
  const look = (given: unknown): Record<string, unknown> | undefined =>
    typeof given === "string" ? objects[`obj:${given}`]?.value : (given as Record<string, unknown> | undefined);
  const words: string[] = [];
  const visit = (given: unknown): void => {
    const element = look(given);
    if (!element) return;
    const said = element["/ActualText"];
    if (typeof said === "string") words.push(said.replace(/^u:/, ""));
    else for (const kid of (element["/K"] ?? []) as unknown[]) visit(kid);
  };
  visit(look(objects["trailer"]!.value!["/Root"])!["/StructTreeRoot"]);
  return words;
}
