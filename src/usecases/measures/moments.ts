import { birthDatesTyped, foldChart, rowsOn } from "../../core/chart";
import { momentOrder, type Moment } from "../../core/measures";
import { at, isDay } from "../../core/scheduling";
import { isBefore, type Id } from "../../core/shared";
import type { Context } from "../kit";

/** The day that was typed, where it names one: a whole date, or a month of a year by its first. */
function dayTyped(text: string): string | undefined {
  if (isDay(text)) return text;
  const month = /^(\d{4})-(\d{2})$/.exec(text) ?? /^(\d{4})$/.exec(text);
  if (month) return `${month[1]}-${month[2] ?? "01"}-01`;
  const days = birthDatesTyped(text);
  // Either reading of 4/5/2026 would be a guess.
  return days?.length === 1 ? days[0] : undefined;
}

/** What happened to somebody meanwhile: visits that were, medicines begun, and events as they stand in the chart. */
export async function momentsOf(ctx: Context, clientId: Id<"Client">): Promise<Moment[]> {
  const { repo, practice, now } = ctx;
  const chart = foldChart(await repo.charts.entries(clientId));
  const dated = (field: string, what: string, when: string, words: (text: string) => string): Moment[] =>
    rowsOn(chart, field).flatMap(({ value: { value } }): Moment[] => {
      const day = dayTyped((value[when] ?? "").trim());
      return day && isDay(day)
        ? [{ at: at(day, "12:00", practice.zone), words: words(value[what] ?? ""), kind: "event" }]
        : [];
    });
  const visits = (await repo.visits.ofClient(practice.id, clientId))
    .filter(({ startsAt, cancelledAt }) => cancelledAt === null && isBefore(startsAt, now))
    .map(({ startsAt, visitType }): Moment => ({ at: startsAt, words: visitType, kind: "visit" }));
  return [
    ...visits,
    ...dated("medicines", "name", "since", (name) => `${name} begun`),
    ...dated("events", "what", "when", (what) => what),
  ].sort((one, other) => momentOrder(one.at, other.at));
}
