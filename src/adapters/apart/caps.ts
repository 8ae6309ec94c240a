/**
 * Most work on one file, in milliseconds of processor time: counted in what was done, so that a slow machine refuses
 * nothing more.
 */
export const mostCpu = 8_000;
/** Most memory of a process that reads files, in bytes; about a sixth of it is there before the first. */
export const mostMemory = 800_000_000;
/**
 * A process that holds more than this after a task gets no other one: what it keeps would count against the next file.
 */
export const mostKept = 350_000_000;
/** How often the watchdog looks, in milliseconds. */
export const lookEvery = 20;
/** Where processor time does not pass at all, the longest that is waited, in milliseconds. */
export const longestWait = 120_000;
/** Most files that wait for their turn. */
export const mostWaiting = 40;
/** A process that has had nothing to do for this long is ended, in milliseconds. */
export const idleFor = 20_000;
