import { mixed } from "yup";
import { cleanTitle, mostBytes, sniff, type FileProblem, type FileType } from "../../core/files";
import { fail, ok, type Result } from "../../core/shared";
import type { SheetFacts } from "../../adapters/pdf-forms";
import type { Ports } from "./use-case";

/** A file's bytes as a use case gets them; how many there may be is `takeFile`'s to say. */
export const bytesInput = mixed<Uint8Array>((v): v is Uint8Array => v instanceof Uint8Array).required();

export interface TakenFile {
  readonly title: string;
  readonly type: FileType;
  /** As it is kept: a picture is drawn anew. */
  readonly bytes: Uint8Array;
  /** Of a PDF. */
  readonly sheet: SheetFacts | undefined;
}
/**
 * The one way a stranger's file gets in: its kind by its content, its size, the scanner, and then what its kind asks
 * for. Takes its time: for a use case's `before`.
 */
export async function takeFile(
  { scanner, pictures, pdf }: Pick<Ports, "scanner" | "pictures" | "pdf">,
  name: string,
  bytes: Uint8Array,
): Promise<Result<TakenFile, FileProblem>> {
  if (bytes.length === 0) return fail("empty");
  if (bytes.length > mostBytes) return fail("too-large");
  if ((await scanner.scan(bytes)) === "harmful") return fail("unsafe");
  const type = sniff(bytes);
  if (!type) return fail("wrong-type");
  const title = cleanTitle(name, type);
  if (type === "application/pdf") {
    const checked = await pdf.check(bytes);
    return checked.ok ? ok({ title, type, bytes, sheet: checked.value }) : checked;
  }
  const drawn = await pictures.redraw(bytes, type);
  return drawn.ok ? ok({ title, type, bytes: drawn.value, sheet: undefined }) : drawn;
}
