import sharp from "sharp";
import type { FileProblem, FileType } from "../core/files";
import { fail, ok, type Result } from "../core/shared";

/** Draws a picture anew. */
export interface Pictures {
  /**
   * The same picture without anything else that was in its file: no place, no camera, no time, nothing hidden after it.
   */
  redraw(bytes: Uint8Array, type: FileType): Promise<Result<Uint8Array, FileProblem>>;
  /**
   * A signature out of a picture of one: its ink on a transparent ground, cut to what was written, as a PNG of at most
   * 600 x 200. Done again to its own outcome it stays about what it is.
   */
  signature(bytes: Uint8Array): Promise<Result<Uint8Array, FileProblem>>;
}
const mostPixels = 50_000_000;
const longestSide = 3_000;

const signatureWidth = 600;
const signatureHeight = 200;
/** Less than this part of the paper's brightness is ink, the more so the darker. */
const inkBelow = 0.7;
/** From which brightness on, of 255, a dot is paper: most of a sheet is, whatever light it lay in. */
function paperAmong(data: Uint8Array, channels: number): number {
  const many = new Uint32Array(256);
  for (let at = 0; at < data.length; at += channels) many[data[at]!]!++;
  const half = data.length / channels / 2;
  let [seen, brightness] = [0, 255];
  while (brightness > 0 && (seen += many[brightness]!) < half) brightness--;
  return brightness * inkBelow;
}
const inkColour = [0x23, 0x26, 0x2b] as const;

export const sharpPictures: Pictures = {
  async signature(bytes) {
    try {
      const { data, info } = await sharp(bytes, { limitInputPixels: mostPixels, failOn: "error" })
        .rotate()
        .flatten({ background: "#ffffff" })
        .resize({ width: 1_600, height: 1_600, fit: "inside", withoutEnlargement: true })
        .greyscale()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const { width, height, channels } = info;
      const paper = paperAmong(data, channels);
      const out = Buffer.alloc(width * height * 4);
      let [left, top, right, bottom] = [width, height, -1, -1];
      for (let dot = 0; dot < width * height; dot++) {
        const dark = paper - data[dot * channels]!;
        if (dark <= 0) continue;
        out.set([...inkColour, Math.min(255, Math.round((dark / paper) * 400))], dot * 4);
        const column = dot % width;
        const row = Math.floor(dot / width);
        left = Math.min(left, column);
        right = Math.max(right, column);
        top = Math.min(top, row);
        bottom = Math.max(bottom, row);
      }
      // A blank sheet, or a dot, is no signature.
      if (right - left < 8 || bottom - top < 2) return fail("broken-picture");
      const cut = await sharp(out, { raw: { width, height, channels: 4 } })
        .extract({ left, top, width: right - left + 1, height: bottom - top + 1 })
        .resize({ width: signatureWidth, height: signatureHeight, fit: "inside", withoutEnlargement: true })
        .png({ compressionLevel: 9 })
        .toBuffer();
      return ok(new Uint8Array(cut));
    } catch {
      return fail("broken-picture");
    }
  },
  async redraw(bytes, type) {
    try {
      const picture = sharp(bytes, { limitInputPixels: mostPixels, failOn: "error" })
        .rotate()
        .resize({ width: longestSide, height: longestSide, fit: "inside", withoutEnlargement: true });
      const encoded = () => {
        if (type === "image/png") return picture.png();
        if (type === "image/webp") return picture.webp();
        return picture.jpeg({ quality: 85 });
      };
      const out = encoded();
      return ok(new Uint8Array(await out.toBuffer()));
    } catch {
      return fail("broken-picture");
    }
  },
};
