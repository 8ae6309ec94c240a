/** Looks for what would harm whoever opens a file. A practice with a scanner of its own puts it behind this. */
export interface Scanner {
  scan(bytes: Uint8Array): Promise<"clean" | "harmful">;
}
// The antivirus industry's harmless test file (EICAR, 1999), in two pieces so that no scanner takes this one for it.
const testFile = ["X5O!P%@AP[4\\PZX54(P^)7CC)7}$", "EICAR-STANDARD-ANTIVIRUS-TEST-FILE!$H+H*"].join("");

/** The stand-in that ships with the app: it knows the test file and nothing else. */
export const standInScanner: Scanner = {
  scan: (bytes) => Promise.resolve(Buffer.from(bytes).includes(testFile) ? "harmful" : "clean"),
};
