import { fork, type ChildProcess } from "node:child_process";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import type { ImportProblem } from "../../core/fhir";
import type { Questionnaire } from "../../core/questionnaire";
import { fail, type Result } from "../../core/shared";
import type { Certificates } from "../seal/certificates";
import type { PaperChecks } from "../paper-checks";
import type { PdfForms } from "../pdf-forms";
import type { Pictures } from "../pictures";
import { idleFor, mostKept, mostWaiting } from "./caps";
import type { Asked, Reply, Tasks } from "./tasks";

/** A questionnaire from a file, with its past. */
export interface HandOff {
  /** Newest first. */
  readonly versions: [Questionnaire, ...Questionnaire[]];
  /** The PDFs of worksheets that came along, in base64, by their hash. */
  readonly sheets: ReadonlyMap<string, string>;
}
/** Reads questionnaire files that strangers made. */
export interface HandOffs {
  read(text: string): Promise<Result<HandOff, ImportProblem[]>>;
}

const mostReaders = Math.max(1, Math.min(4, availableParallelism() - 1));
/** A process that reads files. */
function openReader(): ChildProcess {
  // By where the server was started: a bundler would otherwise put the file, and what it needs, somewhere else.
  const script = join(/* turbopackIgnore: true */ process.cwd(), "src", "adapters", "apart", "worker.ts");
  return fork(script, {
    execArgv: ["--import", "tsx", "--max-old-space-size=400"],
    // No key, no address of a database.
    env: { NODE_ENV: "production" },
    serialization: "advanced",
    stdio: ["ignore", "ignore", "ignore", "ipc"],
  });
}
const idle: ChildProcess[] = [];
const turns: (() => void)[] = [];
let busy = 0;
let resting: NodeJS.Timeout | undefined;
/** Ends the processes that have nothing to do; the next file makes new ones. */
export function closeApart(): void {
  for (const reader of idle.splice(0)) reader.kill("SIGKILL");
}
const isAlive = (reader: ChildProcess): boolean =>
  reader.connected && !reader.killed && reader.exitCode === null && reader.signalCode === null;
/** Holds nobody up who wants to end, and is ended where no file comes for a while. */
function rest(reader: ChildProcess): void {
  if (!isAlive(reader)) return;
  reader.unref();
  reader.channel?.unref();
  idle.push(reader);
  clearTimeout(resting);
  resting = setTimeout(closeApart, idleFor).unref();
}
function wake(): ChildProcess {
  let reader = idle.pop();
  while (reader && !isAlive(reader)) reader = idle.pop();
  reader ??= openReader();
  reader.ref();
  reader.channel?.ref();
  return reader;
}

/**
 * Does it in a process apart, one task at a time in each. One that works or holds too much is killed, and that is the
 * answer.
 */
async function apart<K extends keyof Tasks>(
  task: K,
  ...given: Parameters<Tasks[K]>
): Promise<Awaited<ReturnType<Tasks[K]>> | Result<never, "too-costly" | "busy">> {
  if (turns.length >= mostWaiting) return fail("busy");
  if (busy >= mostReaders) await new Promise<void>((resolve) => turns.push(resolve));
  else busy++;
  let reader: ChildProcess | undefined;
  try {
    reader = wake();
    const reply = await ask(reader, [task, given]);
    if (reply === "killed") return fail("too-costly");
    if (reply.memory > mostKept) reader.kill("SIGKILL");
    if ("threw" in reply) throw new Error(`${task} threw a ${reply.threw}.`);
    return reply.done as Awaited<ReturnType<Tasks[K]>>;
  } finally {
    if (reader) rest(reader);
    const next = turns.shift();
    if (next) next();
    else busy--;
  }
}
function ask(reader: ChildProcess, asked: Asked): Promise<Reply | "killed"> {
  return new Promise((resolve, reject) => {
    const settle = (then: () => void): void => {
      reader.off("message", replied).off("exit", ended).off("error", failed);
      then();
    };
    const replied = (reply: unknown): void => settle(() => resolve(reply as Reply));
    const failed = (error: Error): void => settle(() => reject(error));
    const ended = (code: number | null, signal: string | null): void =>
      settle(() => {
        if (signal === "SIGKILL") resolve("killed");
        else reject(new Error(`The process that reads files ended (${signal ?? code}).`));
      });
    reader.on("message", replied).on("exit", ended).on("error", failed);
    reader.send(asked);
  });
}

export const certificatesApart: Certificates = {
  read: (bytes, password, now) => apart("readPkcs12", bytes, password, now),
  facts: async (der) => (await import("../seal")).factsOf(der),
};
export const papersApart: PaperChecks = { look: (bytes) => apart("lookAtPaper", bytes) };
export const picturesApart: Pictures = {
  redraw: (bytes, type) => apart("redraw", bytes, type),
  signature: (bytes) => apart("signaturePicture", bytes),
};
export const pdfFormsApart: PdfForms = {
  check: (bytes) => apart("checkPdf", bytes),
  fill: (bytes, values) => apart("fillPdf", bytes, values),
  stamp: (order) => apart("stampPdf", order),
};
const problemWords: Readonly<Record<"too-costly" | "busy", string>> = {
  "too-costly": "Reading this file takes too much work. Split it.",
  busy: "Many files are being looked at just now. Try again in a minute.",
};
export const handOffsApart: HandOffs = {
  async read(text) {
    const read = await apart("readHandOff", text);
    if (read.ok) return read;
    if (typeof read.error === "string") return fail<ImportProblem[]>([{ path: "", problem: problemWords[read.error] }]);
    return { ok: false, error: read.error };
  },
};
