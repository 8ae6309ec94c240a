import { changeName, mergeRows, type KeptAnswer } from "@/core/packet";
import {
  allItems,
  applyChange,
  place,
  type AnswerChange,
  type AnswerValue,
  type Placed,
  type Questionnaire,
  type Twin,
} from "@/core/questionnaire";
import type { Id, Instant } from "@/core/shared";
import { browserTimers, Saver, type SaveState, type Timers } from "@/ui/kit/saver";
import type { FillPart } from "@/usecases/filling";
import type { Edit, KeptEdits } from "./kept-edits";

type PartId = Id<"Part">;
type Changes = Map<string, AnswerChange>;
type Unsaved = Map<PartId, Changes>;

/** A change and the revision it was made on. */
export interface SentChange {
  readonly change: AnswerChange;
  readonly base: number;
}
export interface Saved {
  readonly kind: "saved";
  readonly at: Instant;
  /** The revisions written, by `changeName`. */
  readonly kept: Readonly<Record<string, number>>;
  /** What another device had written since: left as it is. */
  readonly clashes: readonly KeptAnswer[];
}
export interface ChangesSince {
  readonly version: number;
  readonly parts: readonly { readonly id: PartId; readonly kept: readonly KeptAnswer[] }[];
  /** It is not open any more. */
  readonly over: boolean;
}
/** The way to where answers are kept. */
export interface AnswerTransport {
  /**
   * Keeps the changes of one part: all of them or none, but for what another device changed since. `stop`: it can never
   * work, so it is not tried again.
   */
  save(partId: PartId, changes: readonly SentChange[]): Promise<Saved | { readonly kind: "again" | "stop" }>;
  /** What was saved elsewhere since that version; none where nobody else can. */
  readonly changesSince?: (version: number) => Promise<ChangesSince | undefined>;
  /** Where unsaved answers outlive the page; none where nothing is kept. */
  readonly keep?: KeptEdits | undefined;
}
/** The same question answered here and on another device: both values stand until one is chosen. */
export interface Clash {
  readonly partId: PartId;
  readonly key: string;
  readonly theirs: KeptAnswer;
}
export interface AnswerSnapshot {
  readonly parts: readonly FillPart[];
  readonly clashes: readonly Clash[];
  readonly savedAt: Instant | undefined;
}
export interface AnswerSyncOptions {
  readonly transport: AnswerTransport;
  readonly parts: readonly FillPart[];
  /** Where one answer is given to several questions: by `part key`, the others. */
  readonly twins?: Readonly<Record<string, readonly Twin[]>>;
  /** It was returned or closed by somebody else meanwhile. */
  readonly onOver?: () => void;
  readonly timers?: Timers;
}

/** The revision of nothing: whatever the server has is another's. */
const unseen = -1;

/**
 * The answers on a page and their way to the server: each change is sent within a second, in order, until it is kept;
 * what is not confirmed is held for the case that the page goes away; what others wrote is taken in, and never covered
 * unseen. Free of React and of the browser: `subscribe` and `getSnapshot` for the answers, `saver` for how saving goes.
 */
export class AnswerSync {
  readonly saver: Saver<Unsaved>;
  private transport: AnswerTransport;
  private onOver: (() => void) | undefined;
  private readonly timers: Timers;
  private readonly heardBy = new Set<() => void>();
  private snapshot: AnswerSnapshot;
  private unsaved: Unsaved = new Map();
  private underWay: Unsaved = new Map();
  /** What the server is known to have, by part and name. */
  private readonly known: Map<PartId, Map<string, { revision: number; change: AnswerChange }>>;
  /** What a closed page left was read; before that, nothing may be written over it. */
  private restored = false;
  private holding: unknown;
  private version = -1;
  private looking = false;

  constructor(private readonly options: AnswerSyncOptions) {
    this.transport = options.transport;
    this.onOver = options.onOver;
    this.timers = options.timers ?? browserTimers;
    this.snapshot = { parts: options.parts, clashes: [], savedAt: undefined };
    this.known = new Map(options.parts.map((part) => [part.id, knownOf(part)]));
    this.saver = new Saver<Unsaved>(
      { take: () => this.take(), restore: (taken) => this.restore(taken), save: (taken) => this.save(taken) },
      this.timers,
    );
  }

  readonly subscribe = (heard: () => void): (() => void) => {
    this.heardBy.add(heard);
    return () => void this.heardBy.delete(heard);
  };
  readonly getSnapshot = (): AnswerSnapshot => this.snapshot;
  readonly getSaveState = (): SaveState => this.saver.getSnapshot();

  /** From here on they go this way. */
  readonly use = (transport: AnswerTransport, onOver: (() => void) | undefined): void => {
    this.transport = transport;
    this.onOver = onOver;
  };
  /** Answers typed or chosen here. */
  readonly change = (partId: PartId, ...changes: readonly AnswerChange[]): void => {
    const spread = this.withTwins(partId, changes);
    this.setParts((part) => {
      const own = spread.get(part.id);
      return own ? this.changed(part, own) : part;
    });
    this.saver.touch();
  };

  /** Of two answers to one question, the one that stands. */
  readonly choose = (clash: Clash, which: "mine" | "theirs"): void => {
    const mine = this.valuesAt(clash.partId, clash.key);
    this.setClashes(this.snapshot.clashes.filter((c) => c.partId !== clash.partId || c.key !== clash.key));
    if (which === "theirs") this.show(clash.partId, [clash.theirs]);
    else this.change(clash.partId, { kind: "values", key: clash.key, values: mine });
  };

  /** A place was signed; a later change of an answer makes signing again necessary. */
  readonly signed = (partId: PartId, at: string, when: Instant): void =>
    this.setParts((part) => (part.id === partId ? { ...part, signed: { ...part.signed, [at]: when } } : part));
  /** Somebody asked to sign there on paper. */
  readonly onPaper = (partId: PartId, at: string): void =>
    this.setParts((part) => (part.id === partId ? { ...part, onPaper: [...part.onPaper, at] } : part));

  /**
   * Takes in what a closed page left behind. Where the server has moved on meanwhile, it is treated like another
   * device's answer.
   */
  async readKept(): Promise<void> {
    if (this.restored) return;
    const edits = (await this.transport.keep?.read()) ?? [];
    if (this.restored) return;
    this.restored = true;
    for (const { partId, change: left, base } of edits) {
      const there = this.known.get(partId)?.get(changeName(left));
      const part = this.options.parts.find((p) => p.id === partId);
      if (!part || (there && sameChange(there.change, left))) continue;
      this.setParts((p) => (p.id === partId ? { ...p, answers: applyChange(p.answers, left), signed: {} } : p));
      if (!there || there.revision === base) this.change(partId, left);
      // What both began with is not known any more: of rows, all are kept that either has.
      else this.meet(partId, left, { ...there, by: part.kept[changeName(left)]?.by }, []);
    }
    this.hold();
  }

  /** Looks for what was saved elsewhere. */
  readonly look = async (): Promise<void> => {
    const { changesSince } = this.transport;
    if (!changesSince || this.looking) return;
    this.looking = true;
    const found = await changesSince(this.version).catch(() => undefined);
    this.looking = false;
    if (!found) return;
    if (found.over) return this.onOver?.();
    this.version = found.version;
    for (const { id, kept } of found.parts) this.takeIn(id, kept);
  };

  private takeIn(partId: PartId, kept: readonly KeptAnswer[]): void {
    const isOurs = (name: string): boolean =>
      this.unsaved.get(partId)?.has(name) === true || this.underWay.get(partId)?.has(name) === true;
    const fresh = kept.filter(({ change, revision }) => {
      const name = changeName(change);
      return revision > (this.known.get(partId)?.get(name)?.revision ?? -1) && !isOurs(name);
    });
    for (const one of fresh) this.learn(partId, one);
    this.show(
      partId,
      fresh.filter(({ change }) => change.kind === "rows" || !this.clashAt(partId, change.key)),
    );
    const newerOf = (clash: Clash): KeptAnswer | undefined =>
      fresh.find(({ change }) => clash.partId === partId && change.kind === "values" && change.key === clash.key);
    if (this.snapshot.clashes.some(newerOf))
      this.setClashes(this.snapshot.clashes.map((clash) => ({ ...clash, theirs: newerOf(clash) ?? clash.theirs })));
  }

  private take(): Unsaved | undefined {
    if (this.unsaved.size === 0) return undefined;
    this.underWay = this.unsaved;
    this.unsaved = new Map();
    return this.underWay;
  }
  private restore(taken: Unsaved): void {
    this.underWay = new Map();
    for (const [partId, changes] of taken)
      this.unsaved.set(partId, new Map([...changes, ...(this.unsaved.get(partId) ?? [])]));
  }
  private async save(taken: Unsaved): Promise<"done" | "again" | "stop"> {
    for (const [partId, changes] of Array.from(taken)) {
      if (changes.size > 0) {
        const reply = await this.transport.save(
          partId,
          Array.from(changes.values(), (change) => ({ change, base: this.baseOf(partId, change) })),
        );
        if (reply.kind !== "saved") return reply.kind;
        this.confirm(partId, changes, reply);
      }
      // Done with: were it given back because a later part fails, an answer that clashed would be sent again as if it
      // had been chosen.
      taken.delete(partId);
    }
    this.underWay = new Map();
    this.hold();
    return "done";
  }
  private confirm(partId: PartId, changes: Changes, { at, kept, clashes }: Saved): void {
    for (const [name, revision] of Object.entries(kept)) {
      const change = changes.get(name);
      if (change) this.learn(partId, { change, revision });
    }
    this.become({ savedAt: at });
    for (const theirs of clashes) {
      const mine = changes.get(changeName(theirs.change));
      if (mine) this.meet(partId, mine, theirs);
    }
  }

  /**
   * Somebody was there first. Rows are put together; of values, the same one is no trouble, and of two the person
   * chooses.
   */
  private meet(
    partId: PartId,
    mine: AnswerChange,
    theirs: KeptAnswer,
    before: readonly string[] = rowsIn(this.known.get(partId)?.get(changeName(mine))?.change),
  ): void {
    this.learn(partId, theirs);
    if (sameChange(mine, theirs.change)) return;
    if (mine.kind === "rows") {
      const rows = mergeRows(before, mine.rows, rowsIn(theirs.change));
      const merged: AnswerChange = { kind: "rows", key: mine.key, rows };
      this.show(partId, [{ ...theirs, change: merged }]);
      if (sameChange(merged, theirs.change)) return;
      this.note(partId, merged);
      this.saver.touch();
      return;
    }
    // What was typed meanwhile waits for the choice as well: sent now, it would cover the other answer.
    this.unsaved.get(partId)?.delete(changeName(mine));
    const others = this.snapshot.clashes.filter((c) => c.partId !== partId || c.key !== mine.key);
    this.setClashes([...others, { partId, key: mine.key, theirs }]);
  }

  private changed(part: FillPart, own: readonly AnswerChange[]): FillPart {
    // Of two answers one has to be chosen first; until then what is typed stays here.
    for (const one of own) if (one.kind === "rows" || !this.clashAt(part.id, one.key)) this.note(part.id, one);
    let answers = own.reduce(applyChange, part.answers);
    for (const first of needsRows(part.questionnaire) ? firstRows(place(part.questionnaire, answers)) : []) {
      answers = applyChange(answers, first);
      this.note(part.id, first);
    }
    const keys = new Set(own.map((c) => c.key));
    const kept = own.map((c) => [changeName(c), { revision: this.baseOf(part.id, c), by: undefined }] as const);
    return {
      ...part,
      answers,
      signed: {},
      kept: { ...part.kept, ...Object.fromEntries(kept) },
      prefilled: part.prefilled.filter((key) => !keys.has(key)),
    };
  }
  private withTwins(partId: PartId, changes: readonly AnswerChange[]): ReadonlyMap<PartId, readonly AnswerChange[]> {
    const spread = new Map<PartId, AnswerChange[]>([[partId, [...changes]]]);
    for (const change of changes) {
      const twins = change.kind === "values" ? (this.options.twins?.[`${partId} ${change.key}`] ?? []) : [];
      for (const twin of twins) {
        const other = twin.part as PartId;
        spread.set(other, [...(spread.get(other) ?? []), { ...change, key: twin.key }]);
      }
    }
    return spread;
  }

  /** Shows answers as they lie on the server. */
  private show(partId: PartId, list: readonly KeptAnswer[]): void {
    if (list.length === 0) return;
    const kept = Object.fromEntries(list.map(({ change, revision, by }) => [changeName(change), { revision, by }]));
    this.setParts((part) =>
      part.id === partId
        ? {
            ...part,
            answers: list.reduce((answers, one) => applyChange(answers, one.change), part.answers),
            signed: {},
            kept: { ...part.kept, ...kept },
            prefilled: part.prefilled.filter((key) => !list.some((one) => one.change.key === key)),
          }
        : part,
    );
  }
  /** What is not confirmed, for the case that the page goes away. */
  private hold(): void {
    this.timers.clearTimeout(this.holding);
    if (!this.restored) return;
    const waiting = [...this.underWay, ...this.unsaved].flatMap(([partId, changes]) =>
      Array.from(changes.values(), (change): Edit => ({ partId, change, base: this.baseOf(partId, change) })),
    );
    const undecided = this.snapshot.clashes.map(({ partId, key }): Edit => {
      const change: AnswerChange = { kind: "values", key, values: this.valuesAt(partId, key) };
      return { partId, change, base: unseen };
    });
    this.transport.keep?.write([...waiting, ...undecided]);
  }
  private note(partId: PartId, change: AnswerChange): void {
    const waiting: Changes = this.unsaved.get(partId) ?? new Map();
    this.unsaved.set(partId, waiting.set(changeName(change), change));
  }
  private learn(partId: PartId, { change, revision }: Pick<KeptAnswer, "change" | "revision">): void {
    const own = this.known.get(partId) ?? new Map<string, { revision: number; change: AnswerChange }>();
    this.known.set(partId, own.set(changeName(change), { revision, change }));
  }
  private baseOf(partId: PartId, change: AnswerChange): number {
    return this.known.get(partId)?.get(changeName(change))?.revision ?? 0;
  }
  private clashAt(partId: PartId, key: string): Clash | undefined {
    return this.snapshot.clashes.find((c) => c.partId === partId && c.key === key);
  }
  private valuesAt(partId: PartId, key: string): readonly AnswerValue[] {
    return this.snapshot.parts.find((p) => p.id === partId)?.answers.values[key] ?? [];
  }
  private setParts(change: (part: FillPart) => FillPart): void {
    this.become({ parts: this.snapshot.parts.map(change) });
    // Once what was typed is on the page: holding it costs a slow phone a moment.
    this.timers.clearTimeout(this.holding);
    this.holding = this.timers.setTimeout(() => this.hold(), 0);
  }
  private setClashes(clashes: readonly Clash[]): void {
    this.become({ clashes });
  }
  private become(part: Partial<AnswerSnapshot>): void {
    this.snapshot = { ...this.snapshot, ...part };
    for (const heard of this.heardBy) heard();
  }
}

const valueOf = (change: AnswerChange): unknown => (change.kind === "values" ? change.values : change.rows);
const sameChange = (one: AnswerChange, other: AnswerChange): boolean =>
  JSON.stringify(valueOf(one)) === JSON.stringify(valueOf(other));
const rowsIn = (change: AnswerChange | undefined): readonly string[] => (change?.kind === "rows" ? change.rows : []);

const knownOf = (part: FillPart): Map<string, { revision: number; change: AnswerChange }> =>
  new Map(
    Object.entries(part.kept).map(([name, { revision }]) => [name, { revision, change: changeFrom(part, name) }]),
  );
const changeFrom = (part: FillPart, name: string): AnswerChange => {
  const space = name.indexOf(" ");
  const key = name.slice(space + 1);
  return name.slice(0, space) === "rows"
    ? { kind: "rows", key, rows: part.answers.rows[key] ?? [] }
    : { kind: "values", key, values: part.answers.values[key] ?? [] };
};

const needsRows = (questionnaire: Questionnaire): boolean =>
  allItems(questionnaire).some((i) => i.type === "group" && i.repeats && i.required);
/** A repeating group that must have a row gets its first one as soon as it is shown. */
const firstRows = (placed: readonly Placed[]): AnswerChange[] =>
  placed.flatMap((one): AnswerChange[] => {
    const { item, key, row, shown, children } = one;
    const lacks =
      shown && item.type === "group" && item.repeats && item.required && row === undefined && children.length === 0;
    return [...(lacks ? [{ kind: "rows", key, rows: ["a1"] } as const] : []), ...firstRows(children)];
  });
