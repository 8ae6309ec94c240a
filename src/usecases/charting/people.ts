import { boolean, number, object, string } from "yup";
import { ageOn, nameOf } from "../../core/chart";
import { ok, type Id, type Result } from "../../core/shared";
import { dayIn } from "../../core/scheduling";
import type { KnownClient } from "../../db/repositories";
import { idInput, notFound, query, type CommonError } from "../kit";

export interface PersonLine {
  readonly id: Id<"Client">;
  readonly name: string;
  readonly calledBy: string | undefined;
  /** YYYY-MM-DD. */
  readonly birthDate: string | undefined;
  readonly age: number | undefined;
  readonly reach: "e-mail" | "text" | "e-mail and text" | "neither e-mail nor text";
  readonly language: string;
  readonly archived: boolean;
  readonly isTest: boolean;
}
export interface People {
  readonly lines: readonly PersonLine[];
  /** How many fit, those on other pages too; the test client is not counted. */
  readonly total: number;
  /** Where the page before and the next one begin; undefined where there is none. */
  readonly previous: number | undefined;
  readonly next: number | undefined;
}
const reachOf = ({ email, phone }: KnownClient): PersonLine["reach"] => {
  if (email && phone) return "e-mail and text";
  if (email) return "e-mail";
  return phone ? "text" : "neither e-mail nor text";
};
export const personLine = (client: KnownClient, today: string): PersonLine => ({
  id: client.id,
  name: nameOf(client),
  calledBy: client.preferredName,
  birthDate: client.birthDate,
  age: client.birthDate ? ageOn(client.birthDate, today) : undefined,
  reach: reachOf(client),
  language: client.language,
  archived: client.archivedAt !== null,
  isTest: client.isTest,
});
export const mostOnPage = 40;
/**
 * Clients in sight, a page at a time: by name, or the likeliest first by what was typed. Archived ones stand where one
 * asks for them, and last among those who are found.
 */
export const people = query({
  name: "people",
  access: "people.read",
  input: object({
    sought: string().max(200).default(""),
    archived: boolean().default(false),
    from: number().integer().min(0).default(0),
    most: number().integer().min(1).max(mostOnPage).default(mostOnPage),
  }),
  async run(ctx, { sought, archived, from, most }): Promise<Result<People, never>> {
    const directory = await ctx.directory();
    const scope = () => {
      if (archived) return "only";
      return sought.trim() === "" ? "left-out" : "last";
    };
    const found = directory.find(sought, scope());
    const today = dayIn(ctx.now, ctx.practice.zone);
    return ok({
      lines: found.slice(from, from + most).map((client) => personLine(client, today)),
      total: found.filter(({ isTest }) => !isTest).length,
      previous: from > 0 ? Math.max(0, from - most) : undefined,
      next: found.length > from + most ? from + most : undefined,
    });
  },
});

/** One client, as a list names them. */
export const person = query({
  name: "person",
  access: "people.read",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<PersonLine, CommonError>> {
    const client = (await ctx.directory()).byId(clientId);
    return client ? ok(personLine(client, dayIn(ctx.now, ctx.practice.zone))) : notFound;
  },
});
