import type { Id } from "../shared";
import { addDays, addMonths, type Day } from "./days";

/** Whom to write to. Every wish that is set must hold. */
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

/** Whether a questionnaire is due from somebody. @param last the day it last came back from them */
export function isDue(last: Day | undefined, due: NonNullable<PeopleWish["due"]>, today: Day): boolean {
  if (due.when === "never") return last === undefined;
  if (due.when === "over") return last === undefined || holdsUntil(last, due.months) < today;
  return (
    last !== undefined &&
    holdsUntil(last, due.months) >= today &&
    holdsUntil(last, due.months) <= addDays(today, due.days)
  );
}
