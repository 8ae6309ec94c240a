import type { Id } from "../shared";
import { addDays, addMonths, type Day } from "./days";

/** What is known of somebody when choosing whom to write to: no answer among it. */
export interface PersonFacts {
  readonly id: Id<"Client">;
  readonly visits: readonly { readonly visitTypeId: Id<"VisitType">; readonly staffId: Id<"Staff"> }[];
  /** The day each questionnaire last came back from them. */
  readonly returned: Readonly<Record<string, Day>>;
}
/** Every wish that is set must hold. */
export interface PeopleWish {
  readonly visitTypeId?: Id<"VisitType">;
  readonly staffId?: Id<"Staff">;
  /** By when a questionnaire last came back. */
  readonly due?: {
    readonly questionnaireId: Id<"Questionnaire">;
    /** How long one return holds; a consent that is to be renewed each year: 12. */
    readonly months: number;
    /** `over`: it no longer holds, or never came back. `soon`: it came back and stops holding within so many days. */
    readonly when: "over" | "never" | "soon";
    readonly days: number;
  };
}

/** The last day on which a return of that day still holds. */
export const holdsUntil = (returned: Day, months: number): Day => addMonths(returned, months);

export function fitsWish(person: PersonFacts, wish: PeopleWish, today: Day): boolean {
  const { visitTypeId, staffId, due } = wish;
  // One visit has to fit both: a counselling visit with somebody else is not what was meant.
  if (
    (visitTypeId || staffId) &&
    !person.visits.some((v) => (!visitTypeId || v.visitTypeId === visitTypeId) && (!staffId || v.staffId === staffId))
  )
    return false;
  if (!due) return true;
  const last = person.returned[due.questionnaireId];
  if (due.when === "never") return last === undefined;
  if (due.when === "over") return last === undefined || holdsUntil(last, due.months) < today;
  return (
    last !== undefined &&
    holdsUntil(last, due.months) >= today &&
    holdsUntil(last, due.months) <= addDays(today, due.days)
  );
}
