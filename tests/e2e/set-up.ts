import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { practiceNow } from "./practice-now";
import { practiceFolder } from "./projects";

/** The practice that every project copies, made once for a run. */
export default function setUp(): void {
  if (!existsSync(".next/BUILD_ID")) throw new Error("There is no build to test; `npm run build` makes one.");
  const { status } = spawnSync("npm", ["run", "--silent", "seed", "--", "--fresh"], {
    stdio: "inherit",
    env: {
      ...process.env,
      KIND_LEDGER_DATA: practiceFolder,
      KIND_LEDGER_NOW: practiceNow,
      KIND_LEDGER_TRIAL: "yes",
      NODE_ENV: "production",
    },
  });
  if (status !== 0) throw new Error("The demo practice could not be made.");
}
