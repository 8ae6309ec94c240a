export type Key = "Tab" | "Enter" | "Space" | "ArrowDown" | "Escape";
/** A browser as the walk needs it: keys, a pointer, and what stands on the page. */
export interface Driver {
  readonly name: string;
  goto(url: string): Promise<void>;
  /** Runs the body of a function on the page; its arguments are `args`. */
  evaluate<T>(body: string, ...args: readonly unknown[]): Promise<T>;
  press(key: Key): Promise<void>;
  type(text: string): Promise<void>;
  /** One stroke of the pointer through these points of the window, as fast as it goes. */
  draw(points: readonly { readonly x: number; readonly y: number }[]): Promise<void>;
  /** Closes the page, as a thumb does, and opens an empty one. */
  anotherTab(): Promise<void>;
  close(): Promise<void>;
}
