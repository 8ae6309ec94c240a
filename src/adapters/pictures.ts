import sharp from "sharp";
import type { FileProblem, FileType } from "../core/files";
import { fail, ok, type Result } from "../core/shared";

/** Draws a picture anew. */
export interface Pictures {
  /**
   * The same picture without anything else that was in its file: no place, no camera, no time, nothing hidden after it.
   */
  redraw(bytes: Uint8Array, type: FileType): Promise<Result<Uint8Array, FileProblem>>;
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
      return ok(new Uint8Array(await out.toBuffer()));
    } catch {
      return fail("broken-picture");
    }
  },
};
