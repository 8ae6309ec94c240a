import { journalFaultWords } from "../src/core/audit";
import { openApplication, readEnvironment, walkJournal } from "../src/server";

// `npm run kind -- journal check`: walks the whole journal and says whether it holds. Ends with 1 where it does not.
const [what, how] = process.argv.slice(2);
if (what !== "journal" || how !== "check") {
  console.error("There is: npm run kind -- journal check");
  process.exit(2);
}
const app = await openApplication(readEnvironment(process.env)).catch((error: Error) => {
  console.error(`kind-ledger: ${error.message}`);
  process.exit(1);
});
const { rows, broken } = await walkJournal(app, (seq, head) => {
  if (process.stderr.isTTY) process.stderr.write(`\r${seq} of ${head}`);
});
const practice = await app.practice();
const kept = app.ports.keptHeads.all().findLast((head) => head.practiceId === practice?.id);
await app.database.close();
if (broken) console.error(`Broken at row ${broken.seq}: ${journalFaultWords[broken.fault]}.`);
else {
  const outside = kept
    ? `Kept outside the database last: row ${kept.seq}, ${kept.at}.`
    : "Nothing is kept outside the database yet.";
  console.log(`Unbroken: ${rows} rows. ${outside}`);
}
process.exit(broken ? 1 : 0);
