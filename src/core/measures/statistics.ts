/** Arithmetic mean. @throws RangeError for no numbers. */
export function mean(numbers: readonly number[]): number {
  if (numbers.length === 0) throw new RangeError("There is no mean of nothing.");
  return numbers.reduce((sum, n) => sum + n, 0) / numbers.length;
}

/** Sum of the products of the distances from the means. */
function crossDeviation(these: readonly number[], those: readonly number[]): number {
  const [meanThese, meanThose] = [mean(these), mean(those)];
  return these.reduce((sum, n, index) => sum + (n - meanThese) * (those[index]! - meanThose), 0);
}

/** Sample variance (n - 1). @throws RangeError for fewer than two numbers. */
export function variance(numbers: readonly number[]): number {
  if (numbers.length < 2) throw new RangeError("One number has no variance.");
  return crossDeviation(numbers, numbers) / (numbers.length - 1);
}
export const standardDeviation = (numbers: readonly number[]): number => Math.sqrt(variance(numbers));

/** Pearson's r, -1 to 1; undefined where one side does not vary, or for fewer than two pairs. */
export function correlation(pairs: readonly (readonly [number, number])[]): number | undefined {
  if (pairs.length < 2) return undefined;
  const these = pairs.map(([first]) => first);
  const those = pairs.map(([, second]) => second);
  const spread = Math.sqrt(crossDeviation(these, these) * crossDeviation(those, those));
  return spread === 0 ? undefined : crossDeviation(these, those) / spread;
}

/** Slope of the least-squares line: y per unit of x; undefined where x does not vary. */
export function slope(points: readonly (readonly [x: number, y: number])[]): number | undefined {
  if (points.length < 2) return undefined;
  const places = points.map(([at]) => at);
  const spread = crossDeviation(places, places);
  if (spread === 0) return undefined;
  return (
    crossDeviation(
      places,
      points.map(([, value]) => value),
    ) / spread
  );
}

/**
 * Cronbach's alpha: k / (k - 1) x (1 - sum of the items' variances / variance of the totals). Cronbach, Psychometrika
 * 1951;16:297-334.
 * @param people each with the number of every item, in the same order: nobody with an item missing.
 * @returns undefined for fewer than two people or items, or where the totals do not vary.
 */
export function cronbachAlpha(people: readonly (readonly number[])[]): number | undefined {
  const items = people[0]?.length ?? 0;
  if (people.length < 2 || items < 2) return undefined;
  const ofTotals = variance(people.map((one) => one.reduce((sum, n) => sum + n, 0)));
  if (ofTotals === 0) return undefined;
  let ofItems = 0;
  for (let item = 0; item < items; item++) ofItems += variance(people.map((one) => one[item]!));
  return (items / (items - 1)) * (1 - ofItems / ofTotals);
}

/** Two-sided 95 % of the standard normal distribution. */
export const z95 = 1.959963984540054;

/** 95 % interval of a share. Wilson, J Am Stat Assoc 1927;22:209-212. */
export function wilson(counted: number, of: number): readonly [low: number, high: number] {
  if (of === 0) return [0, 1];
  const share = counted / of;
  const square = z95 * z95;
  const middle = (share + square / (2 * of)) / (1 + square / of);
  const half = (z95 / (1 + square / of)) * Math.sqrt((share * (1 - share)) / of + square / (4 * of * of));
  // At the ends the interval ends there too, whatever the arithmetic leaves over.
  return [counted === 0 ? 0 : middle - half, counted === of ? 1 : middle + half];
}

export interface EffectSize {
  /** In standard deviations of the first scores; above zero is a change for the better. */
  readonly d: number;
  readonly low: number;
  readonly high: number;
  readonly pairs: number;
}
/**
 * Standardised mean change from first to last of the same people, by the spread of the first: (mean first - mean last) /
 * SD first, with its large-sample 95 % interval, variance 2(1 - r)/n + d²/(2n). Becker, Br J Math Stat Psychol
 * 1988;41:257-278.
 * @returns undefined for fewer than three pairs, or where the first scores do not vary.
 */
export function prePostEffect(
  pairs: readonly (readonly [first: number, last: number])[],
  better: "lower" | "higher",
): EffectSize | undefined {
  if (pairs.length < 3) return undefined;
  const first = pairs.map(([before]) => before);
  const spread = standardDeviation(first);
  if (spread === 0) return undefined;
  const gain = (mean(first) - mean(pairs.map(([, after]) => after))) / spread;
  const effect = better === "lower" ? gain : -gain;
  // Last scores that are all alike go with nothing.
  const together = correlation(pairs) ?? 0;
  const half = z95 * Math.sqrt((2 * (1 - together)) / pairs.length + (effect * effect) / (2 * pairs.length));
  return { d: effect, low: effect - half, high: effect + half, pairs: pairs.length };
}
