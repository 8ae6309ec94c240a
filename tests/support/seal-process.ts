// A process that seals what is due in a data folder, to be killed in the middle of it: says when it begins and ends.
import { openApplication, readEnvironment } from "../../src/server";
import { runSeals } from "../../src/jobs";

const app = await openApplication(readEnvironment(process.env));
console.log("begin");
console.log(`sealed ${await runSeals(app)}`);
await app.database.close();
