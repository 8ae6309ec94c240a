import { ageOn, nameOf, type ClientIdentity } from "../../core/chart";
import { ok, type Id, type Result } from "../../core/shared";
import { dayIn } from "../../core/scheduling";
import { nothing, query } from "../kit";

export interface PersonLine {
  readonly id: Id<"Client">;
  readonly name: string;
  readonly calledBy: string | undefined;
  readonly age: number | undefined;
  readonly reach: "e-mail" | "text" | "e-mail and text" | "neither e-mail nor text";
  readonly language: string;
  /** What somebody is found by, besides the name. */
  readonly identity: ClientIdentity;
}
export const people = query({
  name: "people",
  access: "people.read",
  input: nothing,
  async run({ repo, practice, now }): Promise<Result<PersonLine[], never>> {
    const today = dayIn(now, practice.zone);
    return ok(
      (await repo.clients.all(practice.id)).map((c) => ({
        id: c.id,
        name: nameOf(c),
        calledBy: c.preferredName,
        age: c.birthDate ? ageOn(c.birthDate, today) : undefined,
        reach:
          c.email && c.phone ? "e-mail and text" : c.email ? "e-mail" : c.phone ? "text" : "neither e-mail nor text",
        language: c.language,
        identity: {
          firstName: c.firstName,
          lastName: c.lastName,
          ...(c.preferredName ? { preferredName: c.preferredName } : {}),
          ...(c.birthDate ? { birthDate: c.birthDate } : {}),
          ...(c.email ? { email: c.email } : {}),
          ...(c.phone ? { phone: c.phone } : {}),
        },
      })),
    );
  },
});
