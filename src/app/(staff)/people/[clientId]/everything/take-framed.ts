const headLength = 5;
/**
 * Takes a file that comes in pieces, each behind its kind and its length, and says meanwhile how far it is.
 * @throws Error where it ends before its end
 */
export async function takeFramed(
  body: ReadableStream<Uint8Array>,
  tell: (done: number, all: number) => void,
): Promise<Blob> {
  const parts: Uint8Array<ArrayBuffer>[] = [];
  let held = new Uint8Array(0);
  const reader = body.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    const whole = new Uint8Array(held.length + value.length);
    whole.set(held);
    whole.set(value, held.length);
    let at = 0;
    while (whole.length - at >= headLength) {
      const length = new DataView(whole.buffer, at + 1, 4).getUint32(0);
      if (whole.length - at - headLength < length) break;
      const piece = whole.slice(at + headLength, at + headLength + length);
      if (whole[at] === 1) parts.push(piece);
      else {
        const told = JSON.parse(new TextDecoder().decode(piece)) as { readonly done: number; readonly all: number };
        tell(told.done, told.all);
      }
      at += headLength + length;
    }
    held = whole.slice(at);
  }
  if (held.length > 0) throw new Error("It ended before its end.");
  return new Blob(parts, { type: "application/zip" });
}
