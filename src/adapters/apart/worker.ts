// A process of its own, which knows no database and no key. It reads one stranger's file at a time.
import { setPriority } from "node:os";
import { Worker } from "node:worker_threads";
import { longestWait, lookEvery, mostCpu, mostMemory } from "./caps";
import { tasks, type Asked, type Reply } from "./tasks";

const began = new SharedArrayBuffer(8);
const state = new Float64Array(began);
const idle = -1;
state[0] = idle;
new Worker(new URL("watchdog.mjs", import.meta.url), {
  execArgv: [],
  workerData: { began, mostCpu, mostMemory, longestWait, look: lookEvery },
});
// Whoever waits for a page comes first.
setPriority(10);

/** One task and its reply; what goes wrong in it goes back in words of our own, as it might quote the file. */
process.on("message", ([task, given]: Asked) => {
  void (async () => {
    const { user, system } = process.cpuUsage();
    state[0] = (user + system) / 1000;
    const reply = (said: { readonly done: unknown } | { readonly threw: string }): void => {
      state[0] = idle;
      process.send!({ ...said, memory: process.memoryUsage.rss() } satisfies Reply);
    };
    try {
      reply({ done: await (tasks[task] as (...all: readonly unknown[]) => Promise<unknown>)(...given) });
    } catch (error) {
      reply({ threw: error instanceof Error ? error.name : "Error" });
    }
  })();
});
process.on("disconnect", () => process.exit());
