import sharp from "sharp";
import type { FileType } from "../core/files";

/** Draws a picture anew. */
export interface Pictures {
  /** The same picture without anything else that was in its file: no place, no camera, no time, nothing hidden after it. Undefined when it cannot be read. */
  redraw(bytes: Uint8Array, type: FileType): Promise<Uint8Array | undefined>;
}
const mostPixels = 50_000_000;
const longestSide = 3_000;

export const sharpPictures: Pictures = {
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
      return new Uint8Array(await out.toBuffer());
    } catch {
      return undefined;
    }
  },
};
