import { existsSync, rmSync } from "node:fs";
import { join } from "node:path";
import { openApplication, readEnvironment } from "../src/server";
import { seedPackets, seedPeople } from "../demo/seed";
import { seedYear } from "../demo/year";

// Fills an empty installation with Fernhollow Care Rooms. `--fresh` empties the data folder first (never the key).
// `npm run seed` runs it with WebAssembly compiled once over: done once, it gains more by starting at once than by
// running fast.
const env = readEnvironment(process.env);
if (process.argv.includes("--fresh") && env.databaseUrl === undefined && existsSync(env.dataFolder)) {
  // The lock first, so that nothing is taken away under a running server.
  const { holdFolder } = await import("../src/db/lock");
  const release = await holdFolder(env.dataFolder);
  rmSync(join(env.dataFolder, "pg"), { recursive: true, force: true });
  await release();
}
const app = await openApplication(env);
if (await app.practice()) console.log("There is a practice here already; nothing was changed.");
else {
  const seeded = await seedPeople(app);
  if (!process.argv.includes("--no-packets")) await seedPackets(app, seeded);
  if (process.argv.includes("--year")) await seedYear(app, seeded);
  console.log("Fernhollow Care Rooms is ready.");
}
await app.close();
process.exit(0);
