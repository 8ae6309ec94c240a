/** What may be given as a file: pictures a phone takes, and PDF. */
export const fileTypes = ["image/jpeg", "image/png", "image/webp", "application/pdf"] as const;
export type FileType = (typeof fileTypes)[number];
/** Largest file taken, in bytes. */
export const mostBytes = 10 * 1024 * 1024;
/** Most files one questionnaire's client may send, those taken back included. */
export const mostFiles = 40;

/** Why a file is not taken. */
export type FileProblem =
  | "empty"
  | "too-large"
  | "wrong-type"
  | "unsafe"
  | "broken-picture"
  | "too-many"
  | "pdf-broken"
  | "pdf-no-table"
  | "pdf-encrypted"
  | "pdf-script"
  | "pdf-too-many-pages"
  | "pdf-unusual"
  | "too-costly"
  | "busy";
/** Why a file was not taken, to staff. */
export const fileProblemWords: Readonly<Record<FileProblem, string>> = {
  empty: "The file is empty.",
  "too-large": "It is larger than 10 MB. Make its pictures smaller, or split it.",
  "wrong-type": "It is not a PDF.",
  unsafe: "The scanner takes it for harmful.",
  "broken-picture": "It cannot be read.",
  "too-many": "There are too many files.",
  "pdf-broken": "The PDF is broken: it cannot be read to its end. Save or print it to a new PDF.",
  "pdf-no-table":
    "The PDF has no table that says where its parts are (a cross-reference table), so each program may show something else. Save or print it to a new PDF.",
  "pdf-encrypted": "The PDF is encrypted. Save it without a password or restrictions.",
  "pdf-script":
    "The PDF holds something that runs, opens other programs or sends data (JavaScript, launch or submit actions, files within it). Print it to a new PDF; fields are lost by that.",
  "pdf-too-many-pages": "It has more than 300 pages.",
  "pdf-unusual": "The PDF is packed in a way that is not taken here. Save or print it to a new PDF.",
  "too-costly": "Looking into it takes too much work. Save or print it to a new file, or split it.",
  busy: "Many files are being looked at just now. Try again in a minute.",
};

const starts = (bytes: Uint8Array, ...signs: (number | undefined)[]): boolean =>
  signs.every((s, i) => s === undefined || bytes[i] === s);
/** What a file is, by its first bytes; its name and what a browser says of it count for nothing. */
export function sniff(bytes: Uint8Array): FileType | undefined {
  if (starts(bytes, 0xff, 0xd8, 0xff)) return "image/jpeg";
  if (starts(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return "image/png";
  if (starts(bytes, 0x52, 0x49, 0x46, 0x46, undefined, undefined, undefined, undefined, 0x57, 0x45, 0x42, 0x50))
    return "image/webp";
  if (starts(bytes, 0x25, 0x50, 0x44, 0x46, 0x2d)) return "application/pdf";
  return undefined;
}

const endings: Readonly<Record<FileType, string>> = {
  "image/jpeg": ".jpg",
  "image/png": ".png",
  "image/webp": ".webp",
  "application/pdf": ".pdf",
};
/**
 * A file's name as it is kept: no path, nothing that a file system or a header trips over, the ending that fits what it
 * is.
 */
export function cleanTitle(name: string, type: FileType): string {
  const stem = (name.split(/[\\/]/).at(-1) ?? "")
    .replace(/\.[^.]*$/, "")
    .normalize("NFC")
    .replace(/[^\p{L}\p{M}\p{N} ._()-]/gu, " ")
    .replace(/\s+/g, " ")
    .trim();
  return `${[...stem].slice(0, 80).join("").trim() || "file"}${endings[type]}`;
}
