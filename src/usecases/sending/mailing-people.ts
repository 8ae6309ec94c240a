import { array, boolean, mixed, number, object, string, type InferType } from "yup";
import { nameOf } from "../../core/chart";
import { maskContact } from "../../core/messages";
import { detailsOnFile, doorFor, type DoorPolicy } from "../../core/packet";
import { ok, type Id, type Result } from "../../core/shared";
import { dayIn, isDue, type Day, type PeopleWish } from "../../core/scheduling";
import type { KnownClient, Relation } from "../../db/repositories";
import { idInput, inOrder, query, type Context, type StaffActor } from "../kit";
import { clientsToRenew } from "../consent/register";
import { doorPerson, reachedBy } from "./recipient";

export interface MailingPerson {
  readonly id: Id<"Client">;
  readonly name: string;
  readonly language: string;
  readonly masked: string;
  /** Who gets it, when that is somebody else. */
  readonly through: string | undefined;
  /** When the questionnaire one chooses by last came back. */
  readonly returned: Day | undefined;
  /** They have some of it open already. */
  readonly has: boolean;
  readonly chosen: boolean;
}
export interface MailingPeople {
  readonly lines: readonly MailingPerson[];
  /** Where the page before and the next one begin; undefined where there is none. */
  readonly previous: number | undefined;
  readonly next: number | undefined;
  /** Who fits and can be reached. */
  readonly reachable: number;
  /** Of those, who have some of it open already. */
  readonly already: number;
  /** Who fits and cannot be reached; the first few by name. */
  readonly lost: number;
  readonly lostNames: readonly { readonly id: Id<"Client">; readonly name: string }[];
  readonly writing: {
    readonly count: number;
    readonly byEmail: number;
    /** Whom a code must be read out to, by the practice's door check; undefined where so many were not looked at. */
    readonly readOut: number | undefined;
    /** How many read which language. */
    readonly languages: Readonly<Record<string, number>>;
    /** Stands for exactly these people. */
    readonly seen: string;
  };
}

const mostChoices = 20_000;
const chooseSchema = object({
  visitTypeId: idInput<"VisitType">().optional(),
  staffId: idInput<"Staff">().optional(),
  due: object({
    questionnaireId: idInput<"Questionnaire">(),
    months: number().integer().min(1).max(120).required(),
    when: mixed<NonNullable<PeopleWish["due"]>["when"]>().oneOf(["over", "never", "soon"]).required(),
    days: number().integer().min(1).max(366).required(),
  })
    .optional()
    .default(undefined),
  /** Whose consent of this kind is missing, runs out or is out of date. */
  renewing: idInput<"Questionnaire">().optional(),
  /** For when it last came back, whether or not one chooses by it. */
  about: idInput<"Questionnaire">().optional(),
  /** What is to be sent. */
  questionnaireIds: array(idInput<"Questionnaire">()).max(20).default([]),
  /** Also those who have some of it open already. */
  twice: boolean().default(false),
  /** Everybody but `except`, or nobody but `except`. */
  everybody: boolean().default(true),
  except: array(idInput<"Client">()).max(mostChoices).default([]),
});
type Choice = InferType<typeof chooseSchema>;

interface Reached {
  readonly client: KnownClient;
  readonly relation: Relation | undefined;
  readonly contact: { readonly channel: "email" | "text"; readonly to: string };
  readonly has: boolean;
  readonly chosen: boolean;
}
/** Who fits a wish, without the archived and the test client; who of them is reached, and who is written to. */
async function choose(ctx: Context<StaffActor>, choice: Choice) {
  const { repo, practice, now } = ctx;
  const { visitTypeId, staffId, due, about, renewing } = choice;
  const today = dayIn(now, practice.zone);
  const withVisit =
    visitTypeId || staffId
      ? await repo.mailings.withVisit(practice.id, {
          ...(visitTypeId ? { visitTypeId } : {}),
          ...(staffId ? { staffId } : {}),
        })
      : undefined;
  const asked = due?.questionnaireId ?? about;
  const returns = asked ? await repo.mailings.lastReturns(practice.id, asked) : undefined;
  const returnedOn = (id: string): Day | undefined => {
    const at = returns?.get(id);
    return at && dayIn(at, practice.zone);
  };
  const everybody = (await ctx.directory()).all("left-out");
  const toRenew = renewing
    ? await clientsToRenew(
        ctx,
        everybody.map((c) => c.id),
        renewing,
      )
    : undefined;
  const fitting = everybody.filter(
    (client) =>
      !client.isTest &&
      (toRenew?.has(client.id) ?? true) &&
      (withVisit?.has(client.id) ?? true) &&
      (due === undefined || isDue(returnedOn(client.id), due, today)),
  );
  const open = await repo.mailings.withOpen(practice.id, choice.questionnaireIds, now);
  const except = new Set<string>(choice.except);
  const lost: KnownClient[] = [];
  const reached: Reached[] = [];
  for (const client of fitting) {
    const { relation, contact } = reachedBy(today, client, client.around);
    if (contact) {
      const has = open.has(client.id);
      const chosen = except.has(client.id) !== choice.everybody && (choice.twice || !has);
      reached.push({ client, relation, contact, has, chosen });
    } else lost.push(client);
  }
  return { reached, lost, returnedOn, writing: reached.filter(({ chosen }) => chosen) };
}
const digestOf = ({ sha256 }: Context, people: readonly Reached[]): string =>
  sha256(people.map(({ client }) => client.id).join(" "));

const mostOnPage = 40;
const mostLost = 12;
/** Looking at a postcode means folding a chart. */
const mostLookedAt = 200;
async function readOutOf(ctx: Context<StaffActor>, policy: DoorPolicy, people: readonly Reached[]) {
  // Whoever can be written to can be sent a code.
  if (policy.way === "contact") return 0;
  const byPostcode = policy.way === "details" && policy.details === "postcode";
  if (byPostcode && people.length > mostLookedAt) return undefined;
  const ways = await inOrder(people, async ({ client, relation, contact }) => {
    const { email, phone } = relation ?? client;
    const person = { contact, email, phone };
    if (byPostcode) return doorFor(policy, null, await doorPerson(ctx, policy, client, person)).way;
    const { birthDate, lastName } = client;
    return doorFor(policy, null, { ...person, details: detailsOnFile(policy.details, { birthDate, lastName }) }).way;
  });
  return ways.filter((way) => way === "read-out").length;
}

/** Who would be written to at once, a page at a time, with what is true of all of them. */
export const mailingPeople = query({
  name: "mailing-people",
  access: "packet.send",
  input: chooseSchema.concat(object({ from: number().integer().min(0).default(0) })),
  async run(ctx, { from, ...choice }): Promise<Result<MailingPeople, never>> {
    const { reached, lost, writing, returnedOn } = await choose(ctx, choice);
    const policy = await ctx.repo.practices.door(ctx.practice.id);
    const languages: Record<string, number> = {};
    for (const { client } of writing) languages[client.language] = (languages[client.language] ?? 0) + 1;
    return ok({
      lines: reached.slice(from, from + mostOnPage).map(({ client, relation, contact, has, chosen }) => ({
        id: client.id,
        name: nameOf(client),
        language: client.language,
        masked: maskContact(contact.channel, contact.to),
        through: relation && nameOf(relation),
        returned: returnedOn(client.id),
        has,
        chosen,
      })),
      previous: from > 0 ? Math.max(0, from - mostOnPage) : undefined,
      next: reached.length > from + mostOnPage ? from + mostOnPage : undefined,
      reachable: reached.length,
      already: reached.filter(({ has }) => has).length,
      lost: lost.length,
      lostNames: lost.slice(0, mostLost).map((client) => ({ id: client.id, name: nameOf(client) })),
      writing: {
        count: writing.length,
        byEmail: writing.filter(({ contact }) => contact.channel === "email").length,
        readOut: await readOutOf(ctx, policy, writing),
        languages,
        seen: digestOf(ctx, writing),
      },
    });
  },
});

/** Exactly the people that stood on the page; where they are others by now, nobody. */
export const mailingRecipients = query({
  name: "mailing-recipients",
  access: "packet.send",
  input: chooseSchema.concat(object({ seen: string().max(100).required() })),
  async run(ctx, { seen, ...choice }): Promise<Result<readonly Id<"Client">[], { readonly reason: "changed" }>> {
    const { writing } = await choose(ctx, choice);
    return digestOf(ctx, writing) === seen
      ? ok(writing.map(({ client }) => client.id))
      : { ok: false, error: { reason: "changed" } };
  },
});
