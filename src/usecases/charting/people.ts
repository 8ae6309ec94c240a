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
      (await repo.clients.all(practice.id)).map((client) => {
        const reachOf = () => {
          if (client.email && client.phone) return "e-mail and text";
          if (client.email) return "e-mail";
          if (client.phone) return "text";
          return "neither e-mail nor text";
        };
        return {
          id: client.id,
          name: nameOf(client),
          calledBy: client.preferredName,
          age: client.birthDate ? ageOn(client.birthDate, today) : undefined,
          reach: reachOf(),
          language: client.language,
          identity: {
            firstName: client.firstName,
            lastName: client.lastName,
            ...(client.preferredName ? { preferredName: client.preferredName } : {}),
            ...(client.birthDate ? { birthDate: client.birthDate } : {}),
            ...(client.email ? { email: client.email } : {}),
            ...(client.phone ? { phone: client.phone } : {}),
          },
        };
      }),
    );
  },
});
