/** JSON as it comes in from a file: nothing about its shape is known yet. */
export type JsonObject = { readonly [key: string]: unknown };

/** FHIR has no empty text; where a draft has one, this stands for it. */
export const emptyText = " ";

export const isObject = (value: unknown): value is JsonObject =>
  typeof value === "object" && value !== null && !Array.isArray(value);

export interface ImportProblem {
  /** Where in the file, as a FHIRPath-like place: `item[2].item[0].enableWhen[1]`. */
  readonly path: string;
  readonly linkId?: string;
  readonly problem: string;
  /** A questionnaire that is still being written may be like this; Proof speaks of it until it is put in use. */
  readonly unfinished?: true;
}

/** Most entries of one list: a questionnaire that needs more is no questionnaire. */
const mostEntries = 2_000;

/** Reads one object, noting which keys were used, and gathering what is wrong instead of stopping at the first. */
export class Reader {
  private readonly used = new Set<string>();
  private readonly usedExtensions = new Set<number>();
  private readonly parts = new Map<string, Reader>();
  constructor(
    readonly json: JsonObject,
    readonly path: string,
    private readonly problems: ImportProblem[],
    private readonly linkId?: string,
  ) {}

  problem(what: string, at = ""): undefined {
    const pathTo = () => {
      if (at === "") return this.path;
      if (this.path === "") return at;
      return `${this.path}.${at}`;
    };
    const place = pathTo();
    this.problems.push({ path: place, problem: what, ...(this.linkId === undefined ? {} : { linkId: this.linkId }) });
    return undefined;
  }
  unfinished(what: string, at = ""): undefined {
    this.problem(what, at);
    this.problems[this.problems.length - 1] = { ...this.problems.at(-1)!, unfinished: true };
    return undefined;
  }
  raw(key: string): unknown {
    this.used.add(key);
    return this.json[key];
  }
  text(key: string): string | undefined {
    const value = this.raw(key);
    if (value === undefined || typeof value === "string") return value;
    return this.problem(`"${key}" must be text.`, key);
  }
  /**
   * An object below this one whose keys are read one by one; what is not read of it is kept in its place. Not for what
   * `rest` is never asked of.
   */
  part(key: string): Reader | undefined {
    const known = this.parts.get(key);
    if (known) return known;
    const value = this.raw(key);
    if (!isObject(value)) {
      if (value !== undefined) this.problem(`"${key}" must be an object.`, key);
      return undefined;
    }
    const reader = new Reader(value, this.path === "" ? key : `${this.path}.${key}`, this.problems, this.linkId);
    this.parts.set(key, reader);
    return reader;
  }
  flag(key: string): boolean {
    const value = this.raw(key);
    if (value !== undefined && typeof value !== "boolean") this.problem(`"${key}" must be true or false.`, key);
    return value === true;
  }
  whole(key: string): number | undefined {
    const value = this.raw(key);
    if (value === undefined || (typeof value === "number" && Number.isInteger(value))) return value;
    return this.problem(`"${key}" must be a whole number.`, key);
  }
  list(key: string): Reader[] {
    const value = this.raw(key);
    if (value === undefined) return [];
    if (!Array.isArray(value)) {
      this.problem(`"${key}" must be a list.`, key);
      return [];
    }
    if (value.length > mostEntries) {
      this.problem(`"${key}" has more than ${mostEntries} entries.`, key);
      return [];
    }
    return value.flatMap((entry: unknown, index) => {
      const path = `${this.path === "" ? "" : `${this.path}.`}${key}[${index}]`;
      if (isObject(entry)) return [new Reader(entry, path, this.problems, this.linkId)];
      this.problems.push({
        path,
        problem: "must be an object.",
        ...(this.linkId === undefined ? {} : { linkId: this.linkId }),
      });
      return [];
    });
  }
  /** The value[x] of the extension with this URL, whatever its type; marks it as used. */
  extensionValue(extensionUrl: string): unknown {
    const found = this.extension(extensionUrl);
    const key = found && Object.keys(found.json).find((k) => k.startsWith("value"));
    const value = key === undefined ? undefined : found?.json[key];
    return value === emptyText ? "" : value;
  }
  /** The same without marking it as used: to see whether it is one of ours. */
  peek(extensionUrl: string): unknown {
    return new Reader(this.json, this.path, []).extensionValue(extensionUrl);
  }
  extension(extensionUrl: string): Reader | undefined {
    return this.extensions(extensionUrl)[0];
  }
  extensions(extensionUrl: string): Reader[] {
    const list = this.json["extension"];
    if (!Array.isArray(list)) return [];
    return list.flatMap((entry: unknown, i) => {
      if (!isObject(entry) || entry["url"] !== extensionUrl) return [];
      this.usedExtensions.add(i);
      return [
        new Reader(entry, `${this.path === "" ? "" : `${this.path}.`}extension[${i}]`, this.problems, this.linkId),
      ];
    });
  }
  /** Everything that was not read, so that it can be written out again unchanged. */
  rest(): { readonly kept?: Record<string, unknown> } {
    const kept: Record<string, unknown> = {};
    for (const [key, value] of Object.entries(this.json))
      if (!this.used.has(key) && key !== "extension") kept[key] = value;
    for (const [key, part] of this.parts) {
      const left = part.rest().kept;
      if (left) kept[key] = left;
    }
    const extension = this.json["extension"];
    if (Array.isArray(extension)) {
      const left = extension.filter((_, i) => !this.usedExtensions.has(i)) as unknown[];
      if (left.length > 0) kept["extension"] = left;
    }
    return Object.keys(kept).length > 0 ? { kept } : {};
  }
}
