import MiniSearch from "minisearch";
import { plainLetters, type Id, type Instant } from "../shared";
import {
  birthDatesTyped,
  comparable,
  isPhoneTyped,
  isSame,
  likeness,
  personTest,
  sameKeys,
  type Comparable,
  type Likeness,
} from "./find-person";
import { nameOf, type ClientIdentity } from "./identity";

/** Whoever stands in a directory. */
export interface DirectoryEntry extends ClientIdentity {
  readonly id: Id<"Client">;
  readonly archivedAt: Instant | null;
  /** Turned out to be somebody else here: found nowhere. */
  readonly mergedInto: Id<"Client"> | null;
  /** No longer anybody: found nowhere. */
  readonly erasedAt?: Instant | null;
}
/** Whether the archived are among those a question is about, and where. */
export type WithArchived = "left-out" | "only" | "last";
interface Scope {
  /** Everybody where there is none. */
  readonly inSight: ReadonlySet<string> | undefined;
  readonly archived: WithArchived;
}
/** A directory as far as somebody may see it. */
export interface DirectoryView<T extends DirectoryEntry> {
  byId(id: string): T | undefined;
  /** By last name, then first name. */
  all(archived: WithArchived): T[];
  /**
   * Whom was typed, the likeliest first: by name or e-mail, by a part of a phone number, by a birth date. Where that is
   * nobody, who is meant if one letter of a word was mistyped. Nothing typed is everybody, by name.
   */
  find(sought: string, archived: WithArchived): T[];
  /** Who may be the same person as somebody new, and why. */
  like(fresh: ClientIdentity): { readonly person: T; readonly why: readonly Likeness[] }[];
  /**
   * Who has the same e-mail or phone, or the same name and no other birth date: quickly, for one of thousands of rows.
   */
  same(fresh: ClientIdentity): T | undefined;
  /** Who is out of sight, called exactly so, in whatever letters, and born on that day. */
  beyond(name: ClientIdentity): T[];
}

interface Words {
  readonly id: string;
  readonly name: string;
  readonly mail: string;
}
const wordsOf = (text: string): string[] =>
  plainLetters(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
const newIndex = () =>
  new MiniSearch<Words>({
    fields: ["name", "mail"],
    tokenize: wordsOf,
    processTerm: (term) => term,
    searchOptions: { prefix: true, combineWith: "AND", boost: { name: 4 } },
  });

/**
 * Everybody of a practice, to be found by what is known of them: in the memory of a process, brought up to date by who
 * changed. It is asked only through a view.
 */
export class Directory<T extends DirectoryEntry> {
  private readonly people = new Map<string, Kept<T>>();
  private readonly index = newIndex();
  private readonly byKey = new Map<string, Set<string>>();
  /** Those who are not archived, then those who are; each by name. */
  private sorted: { readonly here: readonly Kept<T>[]; readonly archived: readonly Kept<T>[] } | undefined;
  private readonly collator: Intl.Collator;

  /** @param locale names are sorted as it sorts them */
  constructor(locale: string) {
    this.collator = new Intl.Collator(locale);
  }

  take(changed: readonly T[]): void {
    if (changed.length === 0) return;
    for (const one of changed) {
      const before = this.people.get(one.id)?.person;
      if (before) {
        this.index.discard(one.id);
        for (const key of sameKeys(before)) this.byKey.get(key)?.delete(one.id);
      }
      if (one.erasedAt) {
        this.people.delete(one.id);
        continue;
      }
      for (const key of sameKeys(one)) {
        const those = this.byKey.get(key) ?? new Set();
        this.byKey.set(key, those.add(one.id));
      }
      this.people.set(one.id, { person: one, compared: comparable(one) });
      this.index.add({
        id: one.id,
        name: `${one.firstName} ${one.lastName} ${one.preferredName ?? ""}`,
        mail: one.email ?? "",
      });
    }
    this.sorted = undefined;
  }

  /** @param inSight whose ids it shows; everybody's where there are none */
  view(inSight: ReadonlySet<string> | undefined): DirectoryView<T> {
    return {
      byId: (id) => (inSight?.has(id) === false ? undefined : this.people.get(id)?.person),
      all: (archived) => this.all({ inSight, archived }),
      find: (sought, archived) => this.find(sought, { inSight, archived }),
      like: (fresh) => {
        const compared = comparable(fresh);
        return this.listed({ inSight, archived: "last" }).flatMap((those) =>
          those.flatMap((known) => {
            const why = likeness(compared, known.compared);
            return why.length > 0 ? [{ person: known.person, why }] : [];
          }),
        );
      },
      same: (fresh) =>
        sameKeys(fresh)
          .flatMap((key) => [...(this.byKey.get(key) ?? [])])
          .flatMap((id) => this.people.get(id)?.person ?? [])
          .find((one) => one.mergedInto === null && (inSight?.has(one.id) ?? true) && isSame(fresh, one)),
      beyond: (name) => {
        const called = plainLetters(nameOf(name));
        return this.all({ inSight: undefined, archived: "last" }).filter(
          (one) =>
            inSight?.has(one.id) === false &&
            one.birthDate !== undefined &&
            one.birthDate === name.birthDate &&
            plainLetters(nameOf(one)) === called,
        );
      },
    };
  }

  private listed({ inSight, archived }: Scope): readonly (readonly Kept<T>[])[] {
    const sorted = (this.sorted ??= this.sort());
    const asked = {
      "left-out": [sorted.here],
      only: [sorted.archived],
      last: [sorted.here, sorted.archived],
    }[archived];
    return inSight ? asked.map((those) => those.filter(({ person }) => inSight.has(person.id))) : asked;
  }
  private sort(): NonNullable<Directory<T>["sorted"]> {
    const { compare } = this.collator;
    const all = [...this.people.values()]
      .filter(({ person }) => person.mergedInto === null)
      .sort(({ person: a }, { person: b }) => compare(a.lastName, b.lastName) || compare(a.firstName, b.firstName));
    return {
      here: all.filter(({ person }) => !isArchived(person)),
      archived: all.filter(({ person }) => isArchived(person)),
    };
  }
  private all(scope: Scope): T[] {
    return this.listed(scope).flatMap((those) => those.map(({ person }) => person));
  }

  private find(sought: string, scope: Scope): T[] {
    if (sought.trim() === "") return this.all(scope);
    if (isPhoneTyped(sought) || birthDatesTyped(sought)) return this.those(scope, personTest(sought));
    const ranked = this.index
      .search(sought)
      .flatMap(({ id }) => this.people.get(id as string)?.person ?? [])
      .filter((one) => within(one, scope));
    const found = scope.archived === "last" ? archivedLast(ranked) : ranked;
    if (found.length > 0) return found;
    // What an index of beginnings does not hold: the middle of a word, a date beside a name, a slip.
    const inside = this.those(scope, personTest(sought));
    return inside.length > 0 ? inside : this.those(scope, personTest(sought, true));
  }
  private those(scope: Scope, fits: (person: Comparable) => boolean): T[] {
    const found: T[] = [];
    for (const some of this.listed(scope))
      for (const { person, compared } of some) if (fits(compared)) found.push(person);
    return found;
  }
}
interface Kept<T> {
  readonly person: T;
  readonly compared: Comparable;
}
const isArchived = (one: DirectoryEntry): boolean => one.archivedAt !== null;
const within = (one: DirectoryEntry, { inSight, archived }: Scope): boolean =>
  one.mergedInto === null &&
  (inSight?.has(one.id) ?? true) &&
  (archived === "last" || isArchived(one) === (archived === "only"));
const archivedLast = <T extends DirectoryEntry>(people: readonly T[]): T[] => [
  ...people.filter((one) => !isArchived(one)),
  ...people.filter(isArchived),
];
