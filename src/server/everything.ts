import { strToU8, Zip, ZipDeflate, ZipPassThrough } from "fflate";
import { fail, ok, type Result } from "../core/shared";
import type { Actor, CommonError } from "../usecases/kit";
import { everything, everythingFile } from "../usecases/review";
import type { Application } from "./application";
import { renderPaper, renderRecordPaper } from "./papers";
import { run } from "./run";

/** A piece of the ZIP file, or how far it has come. */
export type Packed = { readonly bytes: Uint8Array } | { readonly done: number; readonly all: number };
export interface Pack {
  readonly name: string;
  readonly pieces: AsyncGenerator<Packed>;
}
const readme = (name: string): string =>
  `Everything that is kept about ${name}.

about.pdf      all of it, to be read
answers/       each questionnaire as it was answered
record.json    the same for other programs (HL7 FHIR R4, a Bundle)
files/         what was given as files
journal.csv    who looked at it and changed it, and when
`;

/** One client's everything as a ZIP file, made piece by piece while it is taken. */
export async function packEverything(
  app: Application,
  actor: Actor,
  clientId: string,
): Promise<Result<Pack, CommonError>> {
  const found = await run(app, everything, actor, { clientId });
  if (!found.ok) return fail(found.error);
  const { name, record, papers, bundle, files, journal } = found.value;
  async function* pieces(): AsyncGenerator<Packed> {
    const all = papers.length + files.length + 1;
    let done = 0;
    let ready: Uint8Array[] = [];
    let broken: Error | undefined;
    const zip = new Zip((error, bytes) => {
      if (error) broken = error;
      else ready.push(bytes);
    });
    function* taken(): Generator<Packed> {
      if (broken) throw broken;
      for (const bytes of ready) yield { bytes };
      ready = [];
    }
    const add = (path: string, bytes: Uint8Array, packs = true): void => {
      const entry = packs ? new ZipDeflate(path, { level: 6 }) : new ZipPassThrough(path);
      zip.add(entry);
      entry.push(bytes, true);
    };
    yield { done, all };
    add("READ ME.txt", strToU8(readme(name)));
    add("record.json", strToU8(`${JSON.stringify(bundle, null, 2)}\n`));
    add("journal.csv", strToU8(`\uFEFF${journal}`));
    add("about.pdf", await renderRecordPaper(record), false);
    yield* taken();
    yield { done: ++done, all };
    for (const { path, paper } of papers) {
      add(path, await renderPaper(paper), false);
      yield* taken();
      yield { done: ++done, all };
    }
    for (const { id, path } of files) {
      const file = await run(app, everythingFile, actor, { clientId, fileId: id });
      // Whoever may no longer see it, or a client erased meanwhile: no file that looks whole.
      if (!file.ok) throw new Error("It could not be read to its end.");
      add(path, file.value.bytes, false);
      yield* taken();
      yield { done: ++done, all };
    }
    zip.end();
    yield* taken();
  }
  return ok({ name, pieces: pieces() });
}
