/** The bytes of a file that a form sent; none where it sent none. */
export async function bytesOf(sent: FormData, name: string): Promise<Uint8Array> {
  const file = sent.get(name);
  return file instanceof File ? new Uint8Array(await file.arrayBuffer()) : new Uint8Array();
}
