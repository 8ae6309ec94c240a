// Makes one change of the installation in KIND_LEDGER_DATA, for a test that kills it or lets its disk run full in the
// middle. Says when it begins and when it is through.
import { openApplication, readEnvironment, resealKeys, run, useCases, type Application } from "../../src/server";
import { addKey } from "../../src/adapters/encryption";
import { staffAs } from "../../demo/seed";
import { repositories } from "../../src/db/repositories";

const [what, clientId, name] = process.argv.slice(2);
const env = readEnvironment(process.env);
if (what === "rotate") addKey(env.keyFile);
const app: Application = await openApplication(env);
const { staff } = repositories(app.database.db, app.ports.sealer);
const owner = (await staff.all((await app.practice())!.id)).find(({ role }) => role === "owner")!;
process.stdout.write("begin\n");
if (what === "rotate") await resealKeys(app);
else {
  const done = await run(app, useCases.eraseClient, staffAs(app, owner.id, "maren"), {
    clientId,
    name,
    reason: "Asked for it",
  });
  if (!done.ok) throw new Error(`Not erased: ${done.error.reason}`);
}
process.stdout.write("end\n");
await app.database.close();
