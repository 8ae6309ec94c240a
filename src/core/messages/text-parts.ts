/**
 * How a text message travels: 3GPP TS 23.038 (alphabets) and TS 23.040 (joined messages). In the GSM 7-bit default
 * alphabet a message holds 160 septets, or 153 in each part of a joined one; with any other sign it goes as UCS-2, with
 * 70 units, or 67. A sign of the extension table takes two septets, and a pair is never torn between two parts.
 */
export interface TextParts {
  readonly alphabet: "GSM-7" | "UCS-2";
  readonly characters: number;
  readonly parts: number;
  /**
   * The first sign that is not in the GSM alphabet, and so makes the message costlier; undefined where there is none.
   */
  readonly costly: string | undefined;
}
// TS 23.038, 6.2.1: the default alphabet, and 6.2.1.1: its extension.
const basic = new Set(
  "@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !\"#¤%&'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà",
);
const extension = new Set("\f^{}\\[~]|€");

/** Fills parts one after the other with pieces that may not be torn. */
function partsOf(sizes: readonly number[], alone: number, joined: number): number {
  const whole = sizes.reduce((a, b) => a + b, 0);
  if (whole <= alone) return whole === 0 ? 0 : 1;
  let parts = 1;
  let used = 0;
  for (const size of sizes) {
    if (used + size > joined) {
      parts++;
      used = 0;
    }
    used += size;
  }
  return parts;
}

export function textParts(text: string): TextParts {
  const signs = [...text];
  const costly = signs.find((s) => !basic.has(s) && !extension.has(s));
  return {
    alphabet: costly === undefined ? "GSM-7" : "UCS-2",
    characters: signs.length,
    costly,
    // A sign outside the basic plane takes two UCS-2 units, which stay together.
    parts:
      costly === undefined
        ? partsOf(
            signs.map((s) => (extension.has(s) ? 2 : 1)),
            160,
            153,
          )
        : partsOf(
            signs.map((s) => s.length),
            70,
            67,
          ),
  };
}
