import { getDocument } from "pdfjs-dist";
import * as pdfjsWorker from "pdfjs-dist/build/pdf.worker.mjs";
import { pageLines, type PrintedLine } from "@/core/worksheet";

export type PaperAnswer =
  | { readonly kind: "lines"; readonly lines: readonly PrintedLine[]; readonly pages: number; readonly left: number }
  | { readonly kind: "unreadable" | "locked" };

const mostPages = 40;
// In this worker already: pdf.js needs none of its own.
(globalThis as { pdfjsWorker?: unknown }).pdfjsWorker = pdfjsWorker;

async function read(bytes: Uint8Array): Promise<PaperAnswer> {
  const document = await getDocument({
    data: bytes,
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
  }).promise;
  const lines: PrintedLine[] = [];
  const pages = Math.min(document.numPages, mostPages);
  for (let number = 1; number <= pages; number++) {
    const { items } = await (await document.getPage(number)).getTextContent();
    lines.push(
      ...pageLines(
        items.flatMap((item) => {
          if (!("str" in item)) return [];
          const [, , skew = 0, height = 0, x = 0, y = 0] = item.transform as number[];
          return [{ text: item.str, x, y, width: item.width, size: Math.hypot(skew, height) }];
        }),
      ),
    );
  }
  return { kind: "lines", lines, pages, left: document.numPages - pages };
}

addEventListener("message", ({ data: bytes }: MessageEvent<Uint8Array>) => {
  read(bytes).then(
    (answer) => postMessage(answer),
    (error: unknown) =>
      postMessage({
        kind: error instanceof Error && error.name === "PasswordException" ? "locked" : "unreadable",
      } satisfies PaperAnswer),
  );
});
