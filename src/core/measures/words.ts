import { assertNever, dateFormat, instantMs, languageName, type Instant } from "../shared";
import type { ChangeState } from "./change";
import { bandOf, changeIn, isScored, mixedIn, type ChangeFound, type Course } from "./course";
import { measuringOf } from "./change";

export const changeStateWords: Readonly<Record<ChangeState, string>> = {
  recovered: "recovered",
  improved: "improved",
  "no-change": "no reliable change",
  worse: "worse",
  "not-known": "not known",
};
/** Points as people write them: one decimal at most. */
export const pointsText = (n: number): string => String(Math.round(n * 10) / 10);
/** A difference with its sign. */
export const signedText = (n: number): string => (n > 0 ? `+${pointsText(n)}` : pointsText(n).replace("-", "−"));
const differenceWords = (difference: number): string => {
  if (difference === 0) return "the same";
  return `${pointsText(Math.abs(difference))} ${difference > 0 ? "more" : "fewer"}`;
};
/** What became of somebody, in words, with the reason where it cannot be told. */
export function stateWords(found: ChangeFound): string {
  if (found.known) return changeStateWords[found.change.state];
  switch (found.why) {
    case "no-score":
      return "no score yet";
    case "one-score":
      return "one score so far";
    case "made-differently":
      return "not compared: the score is made differently since";
    default:
      return assertNever(found.why);
  }
}
const stateReason = (found: ChangeFound & { readonly known: true }): string => {
  const { change, rule } = found;
  const { reliable, cutoff } = measuringOf(rule);
  switch (change.state) {
    case "recovered":
      return `recovered: ${rule?.better === "higher" ? "risen" : "fallen"} by more than chance, and out of the clinical range (${cutoffText()})`;
    case "improved":
      return `improved: more than chance (${leastText()})${change.clinical?.[1] ? ", still in the clinical range" : ""}`;
    case "no-change":
      return `no reliable change: chance alone can do that (${leastText()} would be reliable)`;
    case "worse":
      return `worse: more than chance (${leastText()})`;
    case "not-known":
      return "whether that is more than chance is not known: no reliability is held for this score";
    default:
      return assertNever(change.state);
  }
  function leastText(): string {
    if (!reliable) return "";
    return reliable.from === "published"
      ? `${pointsText(reliable.least)} or more`
      : `more than ${pointsText(reliable.least)}`;
  }
  function cutoffText(): string {
    return cutoff ? `cut-point ${pointsText(cutoff.value)}` : "";
  }
};
/** The sentence that stands for a plot. */
export function trendWords(course: Course, locale: string, zone: string, baseline?: Instant): string {
  const day = (at: Instant): string =>
    dateFormat(locale, { day: "numeric", month: "short", year: "numeric", timeZone: zone }).format(instantMs(at));
  const scored = course.points.filter(isScored);
  const last = scored.at(-1);
  if (!last) return `${course.title}: not scored yet.`;
  const band = bandOf(course, last);
  const now = `${pointsText(last.value)}${band ? ` (${band})` : ""} on ${day(last.at)}`;
  const found = changeIn(course, baseline);
  if (!found.known) return `${course.title}: ${now}; ${stateWords(found)}.`;
  const { from, change } = found;
  const important =
    change.important === undefined || change.state === "no-change"
      ? ""
      : `; ${change.important ? "large enough" : "not large enough"} to matter to people (${pointsText(found.rule!.important!.value)})`;
  return `${course.title}: ${pointsText(from.value)} on ${day(from.at)}, ${now}: ${differenceWords(change.difference)}; ${stateReason(found)}${important}.`;
}
const plural = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;
/** What has to be known before points are compared: one sentence each; none where there is nothing to say. */
export function mixedWords(course: Course, zone: string): string[] {
  const mixed = mixedIn(course, zone);
  const said: string[] = [];
  if (mixed.versions.length > 1)
    said.push(
      `Answered on versions ${mixed.versions.join(", ")} of the questionnaire${mixed.madeDifferently ? ", which do not make the score alike: those are not set against each other" : "; the score is made alike in all of them"}.`,
    );
  if (mixed.languages.length > 1)
    said.push(`Answered in ${mixed.languages.map((one) => languageName(one)).join(" and ")}.`);
  if (mixed.prorated > 0)
    said.push(`${plural(mixed.prorated, "score was", "scores were")} filled up by the mean of the answered items.`);
  if (mixed.unscorable > 0)
    said.push(`${plural(mixed.unscorable, "return", "returns")} could not be scored: too few items answered.`);
  if (mixed.brought > 0) said.push(`${plural(mixed.brought, "score was", "scores were")} brought from a file.`);
  if (mixed.sameDay.length > 0)
    said.push(`More than one on ${plural(mixed.sameDay.length, "day", "days")}: both stand, in their order.`);
  return said;
}
