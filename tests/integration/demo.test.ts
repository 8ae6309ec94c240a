import { afterAll, beforeAll, expect, it } from "vitest";
import { demoPassword } from "../../demo/scenario";
import { seedPackets } from "../../demo/seed";
import { must } from "../../demo/walk";
import { seedYear } from "../../demo/year";
import { createApplication, run, useCases } from "../../src/server";
import { World } from "../support/world";

let world: World;
beforeAll(async () => {
  world = await World.open("pglite");
});
afterAll(() => world.close());

it("the sign-in page offers the demo's people in the demo, and nobody anywhere else", async () => {
  expect(must(await world.do(useCases.demoPeople, world.stranger, {}))).toEqual([]);
  const demo = createApplication(world.app.database, { ...world.app.ports, demoPassword }, world.app.keys);
  const people = must(await run(demo, useCases.demoPeople, world.stranger, {}));
  expect(people.map(({ email }) => email).sort()).toEqual(
    ["maren", "pia", "salma", "tobias"].map((name) => `${name}@fernhollow.example`),
  );
});

it("a year of Fernhollow has what a screen can be judged by", async () => {
  await seedPackets(world.app, world.seeded);
  await seedYear(world.app, world.seeded);
  const maren = world.as("maren");
  const people = must(await world.do(useCases.people, maren, {}));
  expect(people).toMatchObject({ total: 40, next: undefined });
  expect(new Set(people.lines.map(({ language }) => language)).size).toBeGreaterThanOrEqual(4);
  const { lines } = must(await world.do(useCases.daySheet, maren, {}));
  expect(lines.length).toBeGreaterThanOrEqual(12);
  const ask = async <Row>(query: string): Promise<Row[]> =>
    ((await world.app.database.db.execute(query)) as unknown as { rows: Row[] }).rows;
  const often = await ask("select client_id from packet where returned_at is not null group by 1 having count(*) >= 5");
  expect(often.length).toBeGreaterThanOrEqual(12);
  const returns = must(await world.do(useCases.returns, maren, {})).lines;
  expect(returns.filter((line) => line.alerts.length > 0).length).toBeGreaterThanOrEqual(2);
  const post = must(await world.do(useCases.postRoom, maren, {})).lines;
  expect(post.filter(({ state }) => state === "bounced").length).toBeGreaterThanOrEqual(2);
  const states = await ask<{ state: string }>("select distinct state from packet");
  expect(new Set(states.map(({ state }) => state))).toEqual(
    new Set(["ready", "sent", "opened", "under-way", "returned", "sent-back", "settled", "withdrawn"]),
  );
});
