/** Patterns that make a matcher with backtracking try again and again, each with a text it takes it longest for. */
export const costlyPatterns: readonly (readonly [pattern: string, text: string])[] = [
  ["(a|a)?".repeat(18), "a".repeat(18)],
  [`${"(a|a)?".repeat(40)}b`, "a".repeat(40)],
  ["(a+)+b", "a".repeat(5000)],
  ["(a|aa)+b", "a".repeat(5000)],
  ["(.*)*x", "y".repeat(5000)],
  ["([a-z]+)*[0-9]", "a".repeat(5000)],
  [".*.*.*.*=", "=".repeat(3000) + "!"],
];
/** What has no matching in linear time, or is too large written out, with what the import says of it. */
export const refusedPatterns: readonly (readonly [pattern: string, says: RegExp])[] = [
  ["(?=.*[0-9])[a-z0-9]+", /looks ahead or behind/],
  ["(?!x)a", /looks ahead or behind/],
  ["(?<=x)a", /looks ahead or behind/],
  ["(?<!x)a", /looks ahead or behind/],
  ["(a)\\1", /refers back/],
  ["(?<n>a)\\k<n>", /refers back/],
  ["a++b", /never gives back/],
  ["(?>a+)b", /never gives back/],
  ["a{1001}", /invalid repeat count/],
  ["((a{100}){100}){100}", /invalid repeat count/],
  [`(?:${"[a-z]?x".repeat(50)}){20}`, /too many steps/],
  ["a".repeat(501), /longer than 500/],
  ["(", /cannot be read/],
  ["[z-a]", /cannot be read/],
];
