// A thread beside the one that reads a file: that one cannot stop itself. It ends the whole process, and all its
// memory with it.
import { workerData } from "node:worker_threads";

const { began, mostCpu, mostMemory, longestWait, look } = workerData;
const state = new Float64Array(began);
const parent = process.ppid;
const cpu = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};
/** What `state` says began, and since when that has been seen: between two looks one task may end and another begin. */
let seen = { task: -1, since: 0 };
setInterval(() => {
  const isBusy = state[0] >= 0;
  if (state[0] !== seen.task) seen = { task: state[0], since: performance.now() };
  const isOver = isBusy && (cpu() - state[0] > mostCpu || performance.now() - seen.since > longestWait);
  const isLeft = isBusy && process.ppid !== parent;
  if (isOver || isLeft || process.memoryUsage.rss() > mostMemory) process.kill(process.pid, "SIGKILL");
}, look);
