import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import { addDays, boundsOf, dayIn, isDay, mondayOf, type Day } from "../../core/scheduling";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { idInput, query } from "../kit";
import { withOne, type WithOne } from "./with-one";

/** More than these fill no page that somebody reads. */
const mostInWeek = 120;

export interface WeekLine {
  readonly visitId: Id<"Visit">;
  readonly startsAt: Instant;
  readonly clientName: string;
  readonly visitType: string;
  readonly practitioner: string;
  readonly room: string;
}
export interface Week {
  readonly today: Day;
  readonly before: Day;
  readonly after: Day;
  readonly with: WithOne;
  readonly days: readonly { readonly day: Day; readonly lines: readonly WeekLine[] }[];
}
/** The week of a day, from Monday to Sunday. Without a day: this week in the practice's zone. */
export const week = query({
  name: "week",
  access: "day.read",
  input: object({
    day: string().test("day", "No such day.", (v) => v === undefined || isDay(v)),
    staffId: idInput<"Staff">().optional(),
  }),
  async run({ repo, practice, now, actor }, { day, staffId }): Promise<Result<Week, never>> {
    const today = dayIn(now, practice.zone);
    const monday = mondayOf(day ?? today);
    const days = Array.from({ length: 7 }, (_, n) => addDays(monday, n));
    const [from] = boundsOf(monday, practice.zone);
    const [, to] = boundsOf(days[6]!, practice.zone);
    const all = await repo.visits.between(practice.id, from, to);
    const { shown: visits, ...who } = withOne(all, mostInWeek, staffId, actor.id);
    return ok({
      today,
      before: addDays(monday, -7),
      after: addDays(monday, 7),
      with: who,
      days: days.map((each) => ({
        day: each,
        lines: visits
          .filter(({ startsAt }) => dayIn(startsAt, practice.zone) === each)
          .map((visit) => ({
            visitId: visit.id,
            startsAt: visit.startsAt,
            clientName: nameOf(visit.client),
            visitType: visit.visitType,
            practitioner: visit.staffName,
            room: visit.room,
          })),
      })),
    });
  },
});
