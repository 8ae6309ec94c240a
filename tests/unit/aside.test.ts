import { existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, it } from "vitest";
import { sweepAside } from "../../src/db/aside";

it("what another sweep took away between the list and the look stops no sweep", () => {
  const folder = mkdtempSync(join(tmpdir(), "kl-aside-"));
  try {
    // A link to nothing is in the list, and is not there when it is looked at.
    symlinkSync(join(folder, "nowhere"), join(folder, "aside-99999998-00000000"));
    mkdirSync(join(folder, "aside-99999999-00000000"));
    sweepAside(folder);
    expect(existsSync(join(folder, "aside-99999999-00000000"))).toBe(false);
  } finally {
    rmSync(folder, { recursive: true });
  }
});
