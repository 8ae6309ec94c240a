"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { changeName, mergeRows, type KeptAnswer } from "@/core/packet";
import {
  allItems,
  applyChange,
  place,
  type AnswerChange,
  type Placed,
  type Questionnaire,
  type Twin,
} from "@/core/questionnaire";
import type { Id, Instant } from "@/core/shared";
import { useAutosave } from "@/ui/autosave";
import type { FillPart } from "@/ui/fill/steps";
import type { Edit, KeptEdits } from "./kept-edits";
import type { Upload } from "./upload";

type PartId = Id<"Part">;
type Changes = ReadonlyMap<string, AnswerChange>;
type Unsaved = Map<PartId, Changes>;
export interface Sent {
  readonly change: AnswerChange;
  readonly base: number;
}
export interface Saved {
  readonly kind: "saved";
  readonly at: Instant;
  readonly kept: Readonly<Record<string, number>>;
  readonly clashes: readonly KeptAnswer[];
}
export interface ChangesSince {
  readonly version: number;
  readonly parts: readonly { readonly id: PartId; readonly kept: readonly KeptAnswer[] }[];
  readonly over: boolean;
}

/** What stands behind the client's page: the practice's server, or a rehearsal that keeps nothing. */
export interface FillServer {
  /** Keeps the changes of one part: all of them or none, but for what another device changed since. `stop`: it can never work, so it is not tried again. */
  save(partId: PartId, changes: readonly Sent[]): Promise<Saved | { readonly kind: "again" | "stop" }>;
  /** What was saved elsewhere since that edition; none where nobody else can. `over`: it is not open any more. */
  readonly changesSince?: (edition: number) => Promise<ChangesSince | undefined>;
  /** Where unsaved answers outlive the page; none where nothing is kept. */
  readonly keep?: KeptEdits | undefined;
  sign(
    partId: PartId,
    mark: { readonly place: string; readonly name: string; readonly path: string },
  ): Promise<{ readonly kind: "signed"; readonly at: Instant } | { readonly kind: "incomplete" | "no-reply" }>;
  readonly upload: Upload;
  /** Where the PDF of a worksheet is; none where there is nothing to get. */
  readonly sheet: ((partId: PartId) => string) | undefined;
  /** Where a leaflet is. */
  readonly leaflet?: (id: string) => string;
  /** Returns the packet. True once it is returned, or closed for another reason, and the page says so. */
  submit(comment: string): Promise<boolean>;
  /** Speaks another language from here on; none where the page has but one. */
  readonly chooseLanguage?: (language: string) => Promise<void>;
  /** Shuts the page on a device that is not theirs; none on their own. */
  readonly leave?: (() => Promise<void>) | undefined;
  /** Where one's own answers are to be had as a PDF; none where nothing is kept. */
  readonly paper?: string;
}
/** The same question answered here and on another device: both values stand until one is chosen. */
export interface Clash {
  readonly partId: PartId;
  readonly key: string;
  readonly theirs: KeptAnswer;
}

const sameChange = (a: AnswerChange, b: AnswerChange): boolean =>
  JSON.stringify(a.kind === "values" ? a.values : a.rows) === JSON.stringify(b.kind === "values" ? b.values : b.rows);
const rowsIn = (change: AnswerChange | undefined): readonly string[] => (change?.kind === "rows" ? change.rows : []);
const sharedEvery = 4000;
/** The revision of nothing: whatever the server has is another's. */
const unseen = -1;

/** The answers on this page and their way to the server: each change is sent within a second, in order, until it is kept. */
export function usePacket(
  server: FillServer,
  initial: readonly FillPart[],
  {
    twins = {},
    shared = false,
    over,
  }: {
    readonly twins?: Readonly<Record<string, readonly Twin[]>>;
    readonly shared?: boolean;
    readonly over?: () => void;
  } = {},
) {
  const [parts, setParts] = useState(initial);
  const [savedAt, setSavedAt] = useState<Instant>();
  const [clashes, setClashes] = useState<readonly Clash[]>([]);
  const unsaved = useRef(new Map<PartId, Map<string, AnswerChange>>());
  const underWay = useRef<Unsaved>(new Map());
  /** What the server is known to have, by part and name. */
  const known = useRef(
    new Map(
      initial.map((p) => [
        p.id,
        new Map(
          Object.entries(p.kept).map(([name, { revision }]) => [name, { revision, change: changeFrom(p, name) }]),
        ),
      ]),
    ),
  );
  /** What a closed tab left was read; before that, nothing may be written over it. */
  const restored = useRef(false);
  const clashing = useRef<readonly Clash[]>([]);
  const latest = useRef(initial);
  const baseOf = (partId: PartId, change: AnswerChange): number =>
    known.current.get(partId)?.get(changeName(change))?.revision ?? 0;
  const learn = (partId: PartId, { change, revision }: Pick<KeptAnswer, "change" | "revision">): void => {
    const own = known.current.get(partId) ?? new Map<string, { revision: number; change: AnswerChange }>();
    known.current.set(partId, own.set(changeName(change), { revision, change }));
  };
  const setClashing = (next: readonly Clash[]): void => {
    clashing.current = next;
    setClashes(next);
  };
  const clashAt = (partId: PartId, key: string): Clash | undefined =>
    clashing.current.find((c) => c.partId === partId && c.key === key);

  /** What is not confirmed, for the case that the page goes away. */
  const hold = useCallback((): void => {
    if (!restored.current) return;
    const all = [...underWay.current, ...unsaved.current].flatMap(([partId, changes]) =>
      [...changes.values()].map((change): Edit => ({ partId, change, base: baseOf(partId, change) })),
    );
    const undecided = clashing.current.map(({ partId, key }): Edit => ({
      partId,
      change: { kind: "values", key, values: latest.current.find((p) => p.id === partId)?.answers.values[key] ?? [] },
      base: unseen,
    }));
    server.keep?.write([...all, ...undecided]);
  }, [server]);
  /** Shows an answer as it lies on the server. */
  const show = useCallback((partId: PartId, list: readonly KeptAnswer[]): void => {
    if (list.length === 0) return;
    setParts((all) =>
      all.map((part) =>
        part.id !== partId
          ? part
          : {
              ...part,
              answers: list.reduce((answers, k) => applyChange(answers, k.change), part.answers),
              signed: {},
              kept: {
                ...part.kept,
                ...Object.fromEntries(list.map((k) => [changeName(k.change), { revision: k.revision, by: k.by }])),
              },
              prefilled: part.prefilled.filter((key) => !list.some((k) => k.change.key === key)),
            },
      ),
    );
  }, []);
  const touchLater = useRef<() => void>(() => undefined);
  /** Somebody was there first. Rows are put together; of values, the same one is no trouble, and of two the person chooses. */
  const meet = useCallback(
    (
      partId: PartId,
      mine: AnswerChange,
      theirs: KeptAnswer,
      before: readonly string[] = rowsIn(known.current.get(partId)?.get(changeName(mine))?.change),
    ): void => {
      learn(partId, theirs);
      if (sameChange(mine, theirs.change)) return;
      if (mine.kind === "rows") {
        const rows = mergeRows(before, mine.rows, rowsIn(theirs.change));
        const merged: AnswerChange = { kind: "rows", key: mine.key, rows };
        show(partId, [{ ...theirs, change: merged }]);
        if (!sameChange(merged, theirs.change)) {
          unsaved.current.set(partId, new Map([...(unsaved.current.get(partId) ?? []), [changeName(merged), merged]]));
          touchLater.current();
        }
        return;
      }
      // What was typed meanwhile waits for the choice as well: sent now, it would cover the other answer.
      unsaved.current.get(partId)?.delete(changeName(mine));
      setClashing([
        ...clashing.current.filter((c) => c.partId !== partId || c.key !== mine.key),
        { partId, key: mine.key, theirs },
      ]);
    },
    [show],
  );

  const { state, touch, flush, isStopped } = useAutosave<Unsaved>({
    take: () => {
      if (unsaved.current.size === 0) return undefined;
      const taken = unsaved.current;
      underWay.current = taken;
      unsaved.current = new Map();
      return taken;
    },
    restore: (snapshot) => {
      underWay.current = new Map();
      for (const [partId, changes] of snapshot)
        unsaved.current.set(partId, new Map([...changes, ...(unsaved.current.get(partId) ?? [])]));
    },
    save: async (snapshot) => {
      for (const [partId, changes] of Array.from(snapshot)) {
        if (changes.size === 0) continue;
        const reply = await server.save(
          partId,
          [...changes.values()].map((change) => ({ change, base: baseOf(partId, change) })),
        );
        if (reply.kind !== "saved") return reply.kind;
        setSavedAt(reply.at);
        for (const [name, revision] of Object.entries(reply.kept)) {
          const change = changes.get(name);
          if (change) learn(partId, { change, revision });
        }
        for (const theirs of reply.clashes) {
          const mine = changes.get(changeName(theirs.change));
          if (mine) meet(partId, mine, theirs);
        }
        // Done with: were it given back because a later part fails, an answer that clashed would be sent again as if it had been chosen.
        snapshot.delete(partId);
      }
      underWay.current = new Map();
      hold();
      return "done";
    },
  });
  useEffect(() => {
    touchLater.current = touch;
  }, [touch]);

  const change = useCallback(
    (partId: PartId, ...changes: AnswerChange[]): void => {
      const spread = new Map<PartId, AnswerChange[]>([[partId, changes]]);
      for (const one of changes)
        for (const twin of one.kind === "values" ? (twins[`${partId} ${one.key}`] ?? []) : [])
          spread.set(twin.part as PartId, [...(spread.get(twin.part as PartId) ?? []), { ...one, key: twin.key }]);
      setParts((all) =>
        all.map((part) => {
          const own = spread.get(part.id);
          if (!own) return part;
          // Of two answers one has to be chosen first; until then what is typed stays here.
          const note = (c: AnswerChange): void => {
            if (c.kind === "values" && clashAt(part.id, c.key)) return;
            const waiting = unsaved.current.get(part.id) ?? new Map<string, AnswerChange>();
            unsaved.current.set(part.id, waiting.set(changeName(c), c));
          };
          let answers = own.reduce(applyChange, part.answers);
          own.forEach(note);
          for (const one of needsRows(part.questionnaire) ? firstRows(place(part.questionnaire, answers)) : []) {
            answers = applyChange(answers, one);
            note(one);
          }
          const changed = new Set(own.map((c) => c.key));
          const kept = Object.fromEntries(
            own.map((c) => [changeName(c), { revision: baseOf(part.id, c), by: undefined }]),
          );
          return {
            ...part,
            answers,
            signed: {},
            kept: { ...part.kept, ...kept },
            prefilled: part.prefilled.filter((key) => !changed.has(key)),
          };
        }),
      );
      touch();
    },
    [touch, twins],
  );
  // After each change, once the list of what is unsaved is whole and the change was seen.
  useEffect(() => {
    latest.current = parts;
    setTimeout(hold);
  }, [parts, hold]);

  /** Of two answers to one question, the one that stands. */
  const choose = useCallback(
    (clash: Clash, which: "mine" | "theirs"): void => {
      const mine = parts.find((p) => p.id === clash.partId)?.answers.values[clash.key] ?? [];
      setClashing(clashing.current.filter((c) => c !== clash));
      if (which === "theirs") show(clash.partId, [clash.theirs]);
      else change(clash.partId, { kind: "values", key: clash.key, values: mine });
    },
    [parts, show, change],
  );

  // What a closed tab left behind. Where the server has moved on meanwhile, it is treated like another device's answer.
  useEffect(() => {
    let gone = false;
    void server.keep?.read().then((edits) => {
      if (gone) return;
      restored.current = true;
      for (const { partId, change: left, base } of edits) {
        const there = known.current.get(partId)?.get(changeName(left));
        const own = initial.find((p) => p.id === partId);
        if (!own || (there && sameChange(there.change, left))) continue;
        setParts((all) =>
          all.map((p) => (p.id === partId ? { ...p, answers: applyChange(p.answers, left), signed: {} } : p)),
        );
        if ((there?.revision ?? 0) === base || !there) change(partId, left);
        // What both began with is not known any more: of rows, all are kept that either has.
        else
          meet(
            partId,
            left,
            { change: there.change, revision: there.revision, by: own.kept[changeName(left)]?.by },
            [],
          );
      }
      hold();
    });
    return () => {
      gone = true;
    };
    // Once, when the page is there.
    // oxlint-disable-next-line react/exhaustive-deps
  }, []);

  // What others write: looked for often where several people have one copy, else when the page is turned to again.
  useEffect(() => {
    const { changesSince: news } = server;
    if (!news) return;
    let edition = -1;
    let running = false;
    const look = async (): Promise<void> => {
      if (running || document.visibilityState === "hidden") return;
      running = true;
      const found = await news(edition).catch(() => undefined);
      running = false;
      if (!found) return;
      if (found.over) {
        over?.();
        return;
      }
      edition = found.version;
      for (const { id, kept } of found.parts) {
        const fresh = kept.filter(
          (k) =>
            k.revision > (known.current.get(id)?.get(changeName(k.change))?.revision ?? -1) &&
            !unsaved.current.get(id)?.has(changeName(k.change)) &&
            !underWay.current.get(id)?.has(changeName(k.change)),
        );
        fresh.forEach((k) => learn(id, k));
        show(
          id,
          fresh.filter((k) => k.change.kind === "rows" || !clashAt(id, k.change.key)),
        );
        const still = clashing.current.map((c) => {
          const newer =
            c.partId === id ? fresh.find((k) => k.change.kind === "values" && k.change.key === c.key) : undefined;
          return newer ? { ...c, theirs: newer } : c;
        });
        if (still.some((c, i) => c !== clashing.current[i])) setClashing(still);
      }
    };
    const timer = shared ? setInterval(() => void look(), sharedEvery) : undefined;
    const seen = (): void => {
      if (document.visibilityState === "visible") void look();
    };
    document.addEventListener("visibilitychange", seen);
    if (shared) void look();
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", seen);
    };
  }, [server, shared, show, over]);

  const signed = useCallback(
    (partId: PartId, at: string, when: Instant) =>
      setParts((all) => all.map((p) => (p.id === partId ? { ...p, signed: { ...p.signed, [at]: when } } : p))),
    [],
  );
  return { parts, change, signed, state, savedAt, flush, isStopped, clashes, choose };
}

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
  placed.flatMap((one): AnswerChange[] => [
    ...(one.shown &&
    one.item.type === "group" &&
    one.item.repeats &&
    one.item.required &&
    one.row === undefined &&
    one.children.length === 0
      ? [{ kind: "rows", key: one.key, rows: ["a1"] } as const]
      : []),
    ...firstRows(one.children),
  ]);
