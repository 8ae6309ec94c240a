import { sql } from "drizzle-orm";
import { openApplication, readEnvironment, recoverPost, runMailings } from "../../src/server";

// Another process on the same database, for tests: does one thing, says so on a line of its own, and is killed or
// told to end.
const [what, id] = process.argv.slice(2);
const app = await openApplication(readEnvironment(process.env));
const say = (words: string): void => void process.stdout.write(`${words}\n`);
/** Until somebody ends it. */
const forever = (): Promise<never> => new Promise(() => setInterval(() => undefined, 1000));
process.on("SIGTERM", () => {
  void app.close().then(() => process.exit(0));
});

if (what === "write-to-many") {
  // Says after each person how far it has come, and is killed somewhere in between.
  const timer = setInterval(() => say("on"), 5);
  await runMailings(app);
  clearInterval(timer);
  say("over");
} else if (what === "hold-a-person") {
  await app.database.db.transaction(async (tx) => {
    await tx.execute(sql`select 1 from mailing_person where id = ${id} for update`);
    say("held");
    await forever();
  });
} else if (what === "hand-over-slowly") {
  // What is due goes out by the mail server the environment names.
  const sending = recoverPost(app);
  say("begun");
  await sending;
  say("sent");
  await forever();
}
