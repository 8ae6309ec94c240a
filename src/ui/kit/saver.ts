/** Timers, as the browser's or a test's. */
export interface Timers {
  setTimeout(work: () => void, ms: number): unknown;
  clearTimeout(timer: unknown): void;
}
export const browserTimers: Timers = {
  setTimeout: (work, ms) => globalThis.setTimeout(work, ms),
  clearTimeout: (timer) => globalThis.clearTimeout(timer as ReturnType<typeof globalThis.setTimeout>),
};

export type SaveState = "saved" | "waiting" | "saving" | "failed" | "stopped";

export interface SaverWork<T> {
  /** Takes a snapshot of what is pending; undefined when nothing is. */
  take(): T | undefined;
  /** Puts an unsaved snapshot back; newer typing wins. */
  restore(snapshot: T): void;
  /** done; again: try later; stop: it can never work. A throw counts as again. */
  save(snapshot: T): Promise<"done" | "again" | "stop">;
}

/**
 * Saves what is pending a moment after the last change, one save at a time, and again until it works. Free of React and
 * of the browser: who uses it subscribes and reads `getSnapshot`.
 */
export class Saver<T> {
  private state: SaveState = "saved";
  private readonly heardBy = new Set<() => void>();
  private timer: unknown;
  private running: Promise<boolean> | undefined;
  private pending = false;
  private deadline: unknown;

  constructor(
    private work: SaverWork<T>,
    private readonly timers: Timers = browserTimers,
    private readonly delay = 800,
    private readonly retry = 3000,
    /** Somebody who types on and on is saved all the same: nothing waits longer than this, in ms. */
    private readonly longest = 1600,
  ) {}

  readonly subscribe = (heard: () => void): (() => void) => {
    this.heardBy.add(heard);
    return () => void this.heardBy.delete(heard);
  };
  readonly getSnapshot = (): SaveState => this.state;

  /** From here on it is done like this. */
  readonly use = (work: SaverWork<T>): void => {
    this.work = work;
  };
  /** Something is pending: it is saved once nothing more came for a moment. */
  readonly touch = (): void => {
    this.pending = true;
    this.becomeUnlessTrouble("waiting");
    this.later(this.delay);
    this.deadline ??= this.timers.setTimeout(() => void this.flush(), this.longest);
  };

  /** Saves what is pending now. Gives whether everything is kept. */
  readonly flush = async (): Promise<boolean> => {
    this.timers.clearTimeout(this.timer);
    this.timers.clearTimeout(this.deadline);
    this.deadline = undefined;
    // Every caller waits for the save under way, so that "flushed" means kept, not merely on its way.
    while (this.running) await this.running;
    this.pending = false;
    const snapshot = this.work.take();
    if (snapshot === undefined) {
      // What was pending was settled otherwise.
      this.become("saved");
      return true;
    }
    this.becomeUnlessTrouble("saving");
    this.running = this.saveOnce(snapshot);
    const done = await this.running;
    this.running = undefined;
    return done;
  };

  /** The last save can never work. */
  readonly isStopped = (): boolean => this.state === "stopped";
  /** Nothing waits and nothing is on its way. */
  readonly isIdle = (): boolean => !this.pending && this.running === undefined;

  private async saveOnce(snapshot: T): Promise<boolean> {
    const outcome = await this.work.save(snapshot).catch(() => "again" as const);
    if (outcome === "done") {
      this.become(this.pending ? "waiting" : "saved");
      return true;
    }
    this.work.restore(snapshot);
    this.pending = true;
    this.become(outcome === "stop" ? "stopped" : "failed");
    if (outcome === "again") this.later(this.retry);
    return false;
  }
  private later(ms: number): void {
    this.timers.clearTimeout(this.timer);
    this.timer = this.timers.setTimeout(() => void this.flush(), ms);
  }
  /**
   * What went wrong is said until it is right again: a message that comes and goes would move the page under a finger.
   */
  private becomeUnlessTrouble(state: SaveState): void {
    if (this.state !== "failed" && this.state !== "stopped") this.become(state);
  }
  private become(state: SaveState): void {
    if (state === this.state) return;
    this.state = state;
    for (const heard of this.heardBy) heard();
  }
}
