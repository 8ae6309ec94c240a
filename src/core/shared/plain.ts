/** Deepest input taken: what looks at it goes as deep. A questionnaire's draft goes about half as far. */
const deepest = 100;
/** Mean something to the language itself; what reads an object by its keys stumbles over them. */
const reserved = ["__proto__", "constructor"];

/** Whether an input from outside is shallow, and no key of it means something to the language itself. */
export function isPlain(input: unknown): boolean {
  let level: unknown[] = [input];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > deepest) return false;
    const objects = level.filter(
      (value): value is object => typeof value === "object" && value !== null && !ArrayBuffer.isView(value),
    );
    if (objects.some((value) => !Array.isArray(value) && reserved.some((key) => Object.hasOwn(value, key))))
      return false;
    level = objects.flatMap((value) => Object.values(value) as unknown[]);
  }
  return true;
}
