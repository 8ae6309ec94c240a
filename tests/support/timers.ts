import type { Timers } from "../../src/ui/kit/saver";

/** A clock that stands still until it is moved on; what is due runs in order, each to its end. */
export class TestTimers implements Timers {
  private now = 0;
  private next = 0;
  private readonly waiting = new Map<number, { readonly at: number; readonly work: () => void }>();
  setTimeout = (work: () => void, ms: number): number => {
    this.waiting.set(++this.next, { at: this.now + ms, work });
    return this.next;
  };
  clearTimeout = (timer: unknown): void => void this.waiting.delete(timer as number);
  /** The page is gone: nothing of it ever runs. */
  stop(): void {
    this.waiting.clear();
  }
  async advance(ms: number): Promise<void> {
    const until = this.now + ms;
    for (;;) {
      await settled();
      const [due] = [...this.waiting].filter(([, { at }]) => at <= until).sort(([, a], [, b]) => a.at - b.at);
      if (!due) break;
      const [timer, { at, work }] = due;
      this.waiting.delete(timer);
      this.now = at;
      work();
    }
    this.now = until;
  }
}
/** Lets everything that waits for nothing outside come to its end. */
export const settled = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
