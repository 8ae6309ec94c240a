import { randomBytes } from "node:crypto";
import {
  closeSync,
  linkSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { connect, createServer, type Server, type Socket } from "node:net";
import { join } from "node:path";

/** What whoever holds a folder does when asked, by what is asked. */
export type Answers = Map<string, (given: string) => Promise<string>>;
/** Someone else has the data folder open. */
export class FolderHeldError extends Error {
  constructor(folder: string, holder: string) {
    super(`${folder} is already open by ${holder}. Stop it first: two at once would lose what one of them saves.`);
    this.name = "FolderHeldError";
  }
}

/**
 * Takes the data folder for this process alone. A socket in the folder answers for whoever holds it: one that answers
 * nobody was left by a process that was killed. On Linux an abstract socket comes first, as binding it is atomic and
 * the kernel frees it; but each network namespace has its own, and the folder may be seen from several.
 */
export async function holdFolder(folder: string, answers: Answers = new Map()): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const real = realpathSync(folder);
  const note = join(real, "held-by.txt");
  const isHeld = (): FolderHeldError => new FolderHeldError(real, holderOf(note));
  const here = process.platform === "linux" ? await listen(`\0kind-ledger:${real}`) : undefined;
  if (here === "taken") throw isHeld();
  const inFolder = await holdSocket(real, answers);
  if (!inFolder) {
    here?.close();
    throw isHeld();
  }
  writeFileSync(note, `process ${process.pid} (${process.argv.slice(1, 3).join(" ")})`, { mode: 0o600 });
  return async () => {
    await inFolder();
    await new Promise<void>((resolve) => (here ? here.close(() => resolve()) : resolve()));
  };
}

/** Longest somebody may take to ask, in ms. */
const longestAsk = 10_000;
/** In characters: a word, and what it is about. */
const longestQuestion = 5_000;
/** What is answered by whoever holds a folder for something short. */
export const unknownQuestion = "They do not know what to do.";
/** One line is asked, one is answered: `ok …` or `no …`. Whoever only looks whether somebody is there asks nothing. */
function answering(answers: Answers, socket: Socket): void {
  let asked = "";
  socket.setEncoding("utf8").setTimeout(longestAsk, () => socket.destroy());
  socket.on("error", () => socket.destroy());
  socket.on("data", (part: string) => {
    asked += part;
    if (asked.length > longestQuestion) return void socket.destroy();
    if (!asked.endsWith("\n")) return;
    socket.setTimeout(0);
    const [what = "", ...given] = asked.trim().split(" ");
    const answer = answers.get(what);
    const said = answer ? answer(given.join(" ")) : Promise.reject(new Error(unknownQuestion));
    said.then(
      (what) => socket.end(`ok ${what}\n`),
      (error: unknown) => socket.end(`no ${error instanceof Error ? error.message : "unknown"}\n`),
    );
  });
}
/**
 * Asks whoever has the folder open to do something; undefined where nobody has. @throws Error with what they said
 */
export async function askHolder(folder: string, what: string): Promise<string | undefined> {
  const handle = openSync(folder, "r");
  const path = process.platform === "linux" ? `/proc/self/fd/${handle}/held.sock` : join(folder, "held.sock");
  try {
    const said = await new Promise<string | undefined>((resolve, reject) => {
      const socket = connect(path);
      let heard = "";
      socket.setEncoding("utf8");
      socket.once("connect", () => socket.write(`${what}\n`));
      socket.on("data", (part: string) => (heard += part));
      socket.once("end", () => resolve(heard));
      socket.once("error", (error: NodeJS.ErrnoException) =>
        error.code === "ECONNREFUSED" || error.code === "ENOENT" ? resolve(undefined) : reject(error),
      );
    });
    if (said === undefined) return undefined;
    if (!said.startsWith("ok ")) throw new Error(said.slice(3).trim() || "They did not answer.");
    return said.slice(3).trim();
  } finally {
    closeSync(handle);
  }
}

function listen(address: string, answers: Answers = new Map()): Promise<Server | "taken"> {
  const server = createServer((socket) => answering(answers, socket));
  return new Promise((resolve, reject) => {
    server.once("error", (error: NodeJS.ErrnoException) =>
      error.code === "EADDRINUSE" ? resolve("taken") : reject(error),
    );
    server.listen(address, () => resolve(server.unref()));
  });
}
const isAnswered = (path: string): Promise<boolean> =>
  new Promise((resolve) => {
    const socket = connect(path);
    socket.once("connect", () => {
      socket.destroy();
      resolve(true);
    });
    socket.once("error", (error: NodeJS.ErrnoException) =>
      resolve(error.code !== "ECONNREFUSED" && error.code !== "ENOENT"),
    );
  });
/**
 * The folder's own socket; undefined where somebody answers at it. It gets its name by a link, which only one can make.
 */
async function holdSocket(folder: string, answers: Answers): Promise<(() => Promise<void>) | undefined> {
  // The path of a socket may not be long; a folder's number stands for its path on Linux.
  const handle = process.platform === "linux" ? openSync(folder, "r") : undefined;
  const at = (name: string): string => join(handle === undefined ? folder : `/proc/self/fd/${handle}`, name);
  const own = `held-${randomBytes(6).toString("hex")}.sock`;
  const server = await listen(at(own), answers);
  if (server === "taken") return undefined;
  const end = async (): Promise<void> => {
    await new Promise<void>((resolve) => server.close(() => resolve()));
    rmSync(at(own), { force: true });
    if (handle !== undefined) closeSync(handle);
  };
  for (let tries = 0; tries < 5; tries++) {
    try {
      linkSync(at(own), at("held.sock"));
      await sweep(at, own);
      return async () => {
        rmSync(at("held.sock"), { force: true });
        await end();
      };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
    }
    if (await isAnswered(at("held.sock"))) break;
    // Left by a process that was killed: taken out of the way. Whoever is quicker has it, and then it answers.
    const aside = `${own}.left`;
    try {
      renameSync(at("held.sock"), at(aside));
      if (await isAnswered(at(aside))) linkSync(at(aside), at("held.sock"));
      rmSync(at(aside), { force: true });
    } catch {
      continue;
    }
  }
  await end();
  return undefined;
}

/** Sockets that killed processes left beside the lock. One that answers is of somebody who is just asking for it. */
async function sweep(at: (name: string) => string, own: string): Promise<void> {
  for (const name of readdirSync(at("."))) {
    const isLeft = /^held-[\da-f]{12}\.sock(?:\.left)?$/.test(name) && name !== own;
    if (isLeft && !(await isAnswered(at(name)))) rmSync(at(name), { force: true });
  }
}

function holderOf(note: string): string {
  try {
    return readFileSync(note, "utf8");
  } catch {
    return "another process";
  }
}
