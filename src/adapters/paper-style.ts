import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { Font, StyleSheet } from "@react-pdf/renderer";
import { unpackWoff } from "./fonts";

// Every script needs a registered font: an unregistered one is not embedded.
const require = createRequire(join(process.cwd(), "package.json"));
function fontFile(font: string, file: string): string {
  const folder = dirname(require.resolve(`@fontsource/${font}/package.json`));
  const unpacked = unpackWoff(readFileSync(join(folder, "files", `${font}-${file}.woff`)));
  return `data:font/ttf;base64,${unpacked.toString("base64")}`;
}
let registered: Promise<void> | undefined;
/** To be waited for before anything is drawn. */
export const registerFonts = (): Promise<void> => (registered ??= register());
async function register(): Promise<void> {
  Font.register({
    family: "Sans",
    fonts: [
      { src: fontFile("atkinson-hyperlegible-next", "latin-400-normal"), fontWeight: 400 },
      { src: fontFile("atkinson-hyperlegible-next", "latin-600-normal"), fontWeight: 600 },
    ],
  });
  Font.register({
    family: "SansExt",
    fonts: [
      { src: fontFile("atkinson-hyperlegible-next", "latin-ext-400-normal"), fontWeight: 400 },
      { src: fontFile("atkinson-hyperlegible-next", "latin-ext-600-normal"), fontWeight: 600 },
    ],
  });
  Font.register({
    family: "Serif",
    fonts: [
      { src: fontFile("newsreader", "latin-500-normal"), fontWeight: 500 },
      { src: fontFile("newsreader", "latin-500-italic"), fontWeight: 500, fontStyle: "italic" },
    ],
  });
  // A face whose dots are part of their letters: where a font sets them as marks, as the screen's does, the PDF
  // library puts those of a word's first letters beside them.
  Font.register({
    family: "Arabic",
    fonts: ([400, 600] as const).map((fontWeight) => ({
      src: fontFile("vazirmatn", `arabic-${fontWeight}-normal`),
      fontWeight,
    })),
  });
  // Beside the serif's italic stand scripts and letters that have none: there the upright is used.
  Font.register({
    family: "SerifRest",
    fonts: [
      { src: fontFile("newsreader", "latin-ext-500-normal"), fontWeight: 500 },
      { src: fontFile("newsreader", "latin-ext-500-italic"), fontWeight: 500, fontStyle: "italic" },
    ],
  });
  Font.register({
    family: "SerifArabic",
    fonts: (["normal", "italic"] as const).map((fontStyle) => ({
      src: fontFile("vazirmatn", "arabic-500-normal"),
      fontWeight: 500,
      fontStyle,
    })),
  });
  Font.registerHyphenationCallback((word) => [word]);
  await nameGlyphs();
}
/**
 * Has each font know from the start what its glyphs stand for. It keeps what it was told with the first of a kind, and
 * where that was in a run of another script it is nothing: then that letter is lost to whoever takes text out.
 */
async function nameGlyphs(): Promise<void> {
  const families = Object.values(Font.getRegisteredFonts()) as unknown as readonly {
    readonly sources: readonly { readonly data: NamedGlyphs | null; load(): Promise<void> }[];
  }[];
  for (const source of families.flatMap((family) => family.sources)) {
    await source.load();
    for (const letter of source.data?.characterSet ?? []) if (!isShape(letter)) source.data?.glyphForCodePoint(letter);
  }
}
/** Ligatures and shapes of Arabic letters as letters of their own (Unicode's presentation forms): nobody writes them. */
const isShape = (letter: number): boolean =>
  (letter >= 0xfb00 && letter <= 0xfdff) || (letter >= 0xfe70 && letter <= 0xfeff);
interface NamedGlyphs {
  readonly characterSet: readonly number[];
  glyphForCodePoint(letter: number): unknown;
}
export const plum = "#6a3459";
export const ink = "#23262b";
export const soft = "#5b574f";
export const rule = "#8d8474";
const sans = ["Sans", "SansExt", "Arabic"];
const serif = ["Serif", "SerifRest", "SerifArabic"];
export const styles = StyleSheet.create({
  page: { padding: "18mm 18mm 22mm", fontFamily: sans, fontSize: 10, color: ink },
  /**
   * Around what stands on the page, and not around its foot: a page number is drawn after all else, and where it
   * inherits a line height the PDF library leaves it out.
   */
  body: { lineHeight: 1.4 },
  practice: { fontFamily: serif, fontWeight: 500, color: plum, fontSize: 11 },
  address: { fontSize: 9, color: soft },
  title: { fontFamily: serif, fontWeight: 500, fontSize: 20, marginTop: 4, marginBottom: 8, lineHeight: 1.2 },
  facts: { borderTop: `1pt solid ${ink}`, borderBottom: `0.5pt solid ${rule}`, paddingVertical: 6, marginBottom: 10 },
  row: { flexDirection: "row", borderBottom: `0.5pt solid #dcd3c4`, paddingVertical: 4 },
  margin: { width: "28%", paddingRight: 8, color: soft, fontSize: 9 },
  asked: { width: "38%", paddingRight: 10 },
  said: { width: "34%", fontWeight: 600 },
  text: { marginBottom: 6 },
  soft: { color: soft, fontSize: 9 },
  signature: { marginTop: 14, borderTop: `1pt solid ${ink}`, paddingTop: 8 },
  typed: { fontFamily: serif, fontWeight: 500, fontStyle: "italic", fontSize: 20, marginVertical: 4 },
  foot: {
    position: "absolute",
    bottom: "10mm",
    left: "18mm",
    right: "18mm",
    flexDirection: "row",
    justifyContent: "space-between",
    gap: 12,
    color: soft,
    fontSize: 8,
  },
  /** On every page but the first, which says it larger. */
  head: {
    position: "absolute",
    top: "8mm",
    left: "18mm",
    right: "18mm",
    flexDirection: "row",
    justifyContent: "space-between",
    gap: 12,
    color: soft,
    fontSize: 8,
  },
});
