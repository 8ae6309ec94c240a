import { useMemo, useState } from "react";
import { fitsWish, type PeopleWish } from "@/core/scheduling";
import type { Id } from "@/core/shared";
import type { MailingOptions } from "@/usecases/sending";

export type Person = MailingOptions["people"][number];
/** Whom a mailing is for, as it is chosen; the empty text is "any". */
export interface Wish {
  readonly visitType: string;
  readonly staff: string;
  /** A questionnaire, and when it last came back. */
  readonly about: string;
  readonly when: "" | "never" | "over" | "soon";
  readonly months: number;
  readonly days: number;
}
const anybody: Wish = { visitType: "", staff: "", about: "", when: "", months: 12, days: 30 };

const wishOf = ({ visitType, staff, about, when, months, days }: Wish): PeopleWish => ({
  ...(visitType ? { visitTypeId: visitType as Id<"VisitType"> } : {}),
  ...(staff ? { staffId: staff as Id<"Staff"> } : {}),
  ...(about && when ? { due: { questionnaireId: about as Id<"Questionnaire">, months, when, days } } : {}),
});

/** Who fits, who of them can be reached, and who is written to in the end. */
export function usePeople(options: MailingOptions, chosen: readonly string[]) {
  const [wish, setWish] = useState(anybody);
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const [twice, setTwice] = useState(false);
  const fitting = useMemo(
    () => options.people.filter((person) => fitsWish(person, wishOf(wish), options.today)),
    [options, wish],
  );
  const has = (person: Person): boolean => chosen.some((id) => person.open.some((open) => open === id));
  const reachable = fitting.filter((person) => person.channel !== undefined);
  return {
    wish,
    setWish: (part: Partial<Wish>) => setWish({ ...wish, ...part }),
    reachable,
    lost: fitting.filter((person) => person.channel === undefined),
    /** Those who have some of it open already, and whether they get a second packet. */
    already: reachable.filter(has),
    twice,
    setTwice,
    has,
    writing: reachable.filter((person) => !without.has(person.id) && (twice || !has(person))),
    leaveOut: (people: readonly Person[]) => setWithout(new Set(people.map((person) => person.id))),
    include: (person: Person, on: boolean) => {
      const next = new Set(without);
      if (on) next.delete(person.id);
      else next.add(person.id);
      setWithout(next);
    },
  };
}
export type People = ReturnType<typeof usePeople>;
