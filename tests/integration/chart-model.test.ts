import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { foldChart, valueOn } from "../../src/core/chart";
import { dayIn } from "../../src/core/scheduling";
import { newLine, type Item, type LineKind } from "../../src/core/questionnaire";
import type { Id } from "../../src/core/shared";
import { useCases } from "../../src/server";
import type { ReconcileView } from "../../src/usecases/charting";
import { rewrite } from "../support/signing";
import { kinds, text, World } from "../support/world";

type Line = "why" | "job" | "odd";
const questions: Readonly<Record<Line, string>> = { why: "Why are you here?", job: "Your work", odd: "And else?" };
/** Narratives go on; of the others each holds one fact. */
const narratives = ["main-concern", "hobbies", "support"];
const fields = [...narratives, "occupation", "referred-by"];
const choices = ["keep", "take", "both", "edit"] as const;
type Choice = (typeof choices)[number];

/** What is to be true, told as plainly as can be: where lines go, what came back, and what each posting wrote. */
interface Model {
  clientId: Id<"Client">;
  readonly plan: Record<Line, string | null>;
  readonly returns: { packetId: Id<"Packet">; answers: Partial<Record<Line, string>>; on: string; posted: boolean }[];
  readonly ledger: {
    postingId: Id<"Posting">;
    of: number;
    reversed: boolean;
    entries: { field: string; value: string; reversed: boolean }[];
  }[];
}
const standing = ({ ledger }: Model): Record<string, string> => {
  const chart: Record<string, string> = {};
  for (const { entries, reversed } of ledger)
    for (const entry of entries) if (!reversed && !entry.reversed) chart[entry.field] = entry.value;
  return chart;
};
/** What a return brings, field by field: a narrative with several lines says which is which. */
function brought({ plan }: Model, answers: Partial<Record<Line, string>>): [field: string, value: string][] {
  const lines = (Object.keys(questions) as Line[]).filter((line) => plan[line] !== null);
  return fields.flatMap((field): [string, string][] => {
    const fed = lines.filter((line) => plan[line] === field);
    const said = fed.filter((line) => answers[line] !== undefined);
    if (said.length === 0) return [];
    const words = said.map((line) => (fed.length > 1 ? `${questions[line]} ${answers[line]}` : answers[line]!));
    return [[field, words.join("\n")]];
  });
}
const paragraphs = (value: string): string[] => value.split("\n\n").map((one) => one.replace(/^[\d-]{10}: /, ""));
/** What a decision writes where something else is on file; undefined: nothing. */
function written(
  field: string,
  before: string | undefined,
  { came, on }: { readonly came: string; readonly on: string },
  choice: Choice,
): string | undefined {
  const isNarrative = narratives.includes(field);
  if (before === came || (isNarrative && before !== undefined && paragraphs(before).includes(came))) return undefined;
  if (choice === "keep") return undefined;
  if (choice === "edit") return "as edited";
  if (before === undefined || choice === "take") return came;
  return isNarrative ? `${before}\n\n${on}: ${came}` : `${before}; ${came}`;
}

interface Real {
  readonly world: World;
  readonly questionnaireId: Id<"Questionnaire">;
}
type Command = fc.AsyncCommand<Model, Real>;

async function check(model: Model, { world }: Real): Promise<void> {
  const chart = foldChart(await world.repo.charts.entries(model.clientId));
  expect(
    Object.fromEntries(fields.flatMap((key) => (valueOn(chart, key) ? [[key, valueOn(chart, key)]] : []))),
  ).toEqual(standing(model));
  const practiceId = (await world.app.practice())!.id;
  expect((await world.repo.packets.uncharted(practiceId, [model.clientId])).map(({ id }) => id).sort()).toEqual(
    model.returns.flatMap(({ packetId, posted }) => (posted ? [] : [packetId])).sort(),
  );
}
abstract class Act implements Command {
  check(_: Readonly<Model>): boolean {
    return true;
  }
  async run(model: Model, real: Real): Promise<void> {
    await this.act(model, real);
    await check(model, real);
  }
  protected abstract act(model: Model, real: Real): Promise<void>;
}
class Return extends Act {
  constructor(readonly answers: Partial<Record<Line, string>>) {
    super();
  }
  async act(model: Model, { world, questionnaireId }: Real): Promise<void> {
    // The door counts who knocks within an hour.
    world.wait(5);
    const on = dayIn(world.time, (await world.app.practice())!.zone);
    const send = { requestId: world.request(), clientId: model.clientId, questionnaireIds: [questionnaireId] };
    const { packetId } = must(await world.do(useCases.sendPacket, world.as("maren"), send));
    const client = await world.enter(packetId);
    const partId = must(await world.do(useCases.fillView, client, {})).parts[0]!.id;
    const changes = Object.entries(this.answers).map(([key, value]) => ({ kind: "values", key, values: text(value) }));
    if (changes.length > 0) must(await world.do(useCases.saveAnswers, client, { partId, changes }));
    must(await world.do(useCases.returnPacket, client, {}));
    model.returns.push({ packetId, answers: this.answers, on, posted: false });
  }
  override toString = (): string => `return(${JSON.stringify(this.answers)})`;
}
class Move extends Act {
  constructor(
    readonly line: Line,
    readonly to: string | null,
  ) {
    super();
  }
  async act(model: Model, { world, questionnaireId }: Real): Promise<void> {
    model.plan[this.line] = this.to;
    await plan(world, questionnaireId, model.plan);
  }
  override toString = (): string => `move(${this.line} to ${this.to})`;
}
async function plan(world: World, questionnaireId: Id<"Questionnaire">, lines: Model["plan"]): Promise<void> {
  const { revision } = must(await world.do(useCases.planView, world.as("maren"), { questionnaireId }));
  must(
    await world.do(useCases.keepPlan, world.as("maren"), {
      questionnaireId,
      whose: "practice",
      revision,
      order: [],
      lines: Object.entries(lines).map(([linkId, field]) => ({ linkId, field })),
    }),
  );
}
/** Posts one of the returns, or two of them at once: of two that saw the same chart the slower looks again. */
class Post extends Act {
  constructor(
    readonly which: readonly number[],
    readonly choice: Choice,
    readonly leavesFirst: boolean,
  ) {
    super();
  }
  override check = ({ returns }: Readonly<Model>): boolean => returns.some(({ posted }) => !posted);
  async act(model: Model, { world }: Real): Promise<void> {
    const waiting = model.returns.filter(({ posted }) => !posted);
    const chosen = [...new Set(this.which.map((at) => waiting[at % waiting.length]!))];
    const look = async (packetId: Id<"Packet">) =>
      must(await world.do(useCases.reconcileView, world.as("maren"), { packetId }));
    const decide = ({ lines }: ReconcileView) =>
      lines.map((line) => {
        const choice = line.choices.includes(this.choice) ? this.choice : "keep";
        return { line: line.id, choice, ...(choice === "edit" ? { edited: "as edited" } : {}) };
      });
    const post = (view: ReconcileView) =>
      world.do(useCases.postToChart, world.as("maren"), {
        packetId: view.packetId,
        requestId: world.request(),
        revision: view.revision,
        decisions: decide(view),
      });
    const views = [];
    for (const { packetId } of chosen) views.push(await look(packetId));
    if (this.leavesFirst) {
      const made = { packetId: views[0]!.packetId, decisions: decide(views[0]!), redirects: {} };
      must(await world.do(useCases.keepDecisions, world.as("maren"), made));
      expect((await look(made.packetId)).draft?.decisions).toEqual(made.decisions);
    }
    const results = await Promise.all(views.map(post));
    const order = [...results.keys()].sort((a, b) => Number(results[b]!.ok) - Number(results[a]!.ok));
    for (const at of order) {
      let result = results[at]!;
      if (!result.ok) {
        expect(result.error.reason).toBe("chart-moved");
        result = await post(await look(views[at]!.packetId));
      }
      this.writes(model, chosen[at]!, must(result).postingId);
    }
  }
  private writes(model: Model, returned: Model["returns"][number], postingId: Id<"Posting">): void {
    const on = standing(model);
    const entries = brought(model, returned.answers).flatMap(([field, came]) => {
      const twoFit = on[field] !== undefined;
      const choice = this.choice === "both" && !twoFit ? "keep" : this.choice;
      const value = written(field, on[field], { came, on: returned.on }, choice);
      return value === undefined ? [] : [{ field, value, reversed: false }];
    });
    returned.posted = true;
    model.ledger.push({ postingId, of: model.returns.indexOf(returned), reversed: false, entries });
  }
  override toString = (): string => `post(${this.which.join(" and ")}, ${this.choice})`;
}
class Reverse extends Act {
  constructor(
    readonly which: number,
    /** Of its entries one; the whole posting where it is undefined. */
    readonly entry: number | undefined,
  ) {
    super();
  }
  override check = ({ ledger }: Readonly<Model>): boolean => ledger.length > 0;
  async act(model: Model, { world }: Real): Promise<void> {
    const posting = model.ledger[this.which % model.ledger.length]!;
    const written = await world.repo.charts.entries(model.clientId);
    const own = written.filter((one) => one.posting === posting.postingId);
    if (this.entry !== undefined && own.length === 0) return;
    const at = this.entry === undefined ? undefined : this.entry % own.length;
    const result = await world.do(useCases.reverse, world.as("maren"), {
      clientId: model.clientId,
      postingId: posting.postingId,
      requestId: world.request(),
      ...(at === undefined ? {} : { entry: own[at]!.seq }),
    });
    const { entries } = posting;
    // They are written in the order of the questionnaire, and of each field there is one.
    const change = at === undefined ? undefined : own[at]!.change;
    const meant = entries.find(({ field }) => change?.kind === "set" && field === change.field);
    const spent =
      posting.reversed || (meant ? meant.reversed : entries.length > 0 && entries.every((one) => one.reversed));
    expect(result.ok ? "ok" : result.error.reason).toBe(spent ? "already-reversed" : "ok");
    if (spent) return;
    if (at === undefined) {
      posting.reversed = true;
      model.returns[posting.of]!.posted = false;
    } else meant!.reversed = true;
  }
  override toString = (): string => `reverse(${this.which}${this.entry === undefined ? "" : `, entry ${this.entry}`})`;
}

const said = fc.constantFrom("A", "B", "C");
const returning = fc
  .record({ why: said, job: said, odd: said }, { requiredKeys: ["job"] })
  .map((answers) => new Return(answers as Partial<Record<Line, string>>));
const posting = fc
  .tuple(fc.array(fc.nat(5), { minLength: 1, maxLength: 2 }), fc.constantFrom(...choices, "both"), fc.boolean())
  .map(([which, choice, leaves]) => new Post(which, choice, leaves));
// Without returns that are posted there is nothing to move or to take back: they come up more often.
const commands = fc.commands<Model, Real, false>(
  [
    returning,
    returning,
    returning,
    posting,
    posting,
    posting,
    fc
      .tuple(fc.constantFrom<Line>("why", "odd"), fc.constantFrom<string | null>(...narratives, null))
      .map(([line, to]) => new Move(line, to)),
    fc.constantFrom<string | null>("occupation", "referred-by", null).map((to) => new Move("job", to)),
    fc.nat(5).map((which) => new Reverse(which, undefined)),
    fc.tuple(fc.nat(5), fc.nat(3)).map(([which, entry]) => new Reverse(which, entry)),
  ],
  { maxCommands: 24, size: "max" },
);

describe.each(kinds)("returns, plans, postings and what is taken back, against a model, on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const line = (of: LineKind, linkId: Line): Item => ({ ...newLine(of, linkId), text: questions[linkId] }) as Item;

  it("keeps the chart what the model says, whatever is done in whatever order", async () => {
    const made = { requestId: world.request(), title: "Three lines", kind: "intake" };
    const { id } = must(await world.do(useCases.newQuestionnaire, world.as("maren"), made));
    const items = [line("long-text", "why"), line("short-text", "job"), line("long-text", "odd")];
    await rewrite(world, id, (q) => ({ ...q, items }));
    let people = 0;
    await fc.assert(
      fc.asyncProperty(commands, (acts) =>
        fc.asyncModelRun(async () => {
          const requestId = world.request();
          const name = { firstName: "Model", lastName: `Number ${++people}`, email: `model${people}@mail.example` };
          must(await world.do(useCases.addClient, world.as("maren"), { requestId, ...name, anyway: true }));
          const start = { why: "main-concern", job: "occupation", odd: null };
          await plan(world, id, start);
          return {
            model: { clientId: requestId as Id<"Client">, plan: { ...start }, returns: [], ledger: [] },
            real: { world, questionnaireId: id },
          };
        }, acts),
      ),
      { numRuns: 20, endOnFailure: true },
    );
  });
});
