import {
  changeNumbers,
  isChangeNumber,
  comparisons,
  postingRules,
  type AlertRule,
  type AlertTest,
  type ChangeNumber,
  type Comparison,
  type Condition,
  type Norm,
  type PostingRule,
  type PostingTarget,
  type ScoreRule,
  type ShownWhen,
  type Sourced,
} from "../questionnaire";
import type { Reader } from "./json";
import { url } from "./urls";
import { valueFrom } from "./values-in";

// What an item does besides asking: when it is shown, what it posts, raises and computes.

/** Conditions as our own extensions hold them. @param of what they belong to, in words. */
const conditionsIn = (parts: Reader, of: string): Condition[] =>
  parts.extensions("condition").flatMap((line): Condition[] => {
    const question = line.extensionValue("question");
    const operator = line.extensionValue("operator") as Comparison;
    const given = line.extension("answer");
    const answer = given && valueFrom(given, "value");
    if (typeof question === "string" && comparisons.includes(operator) && answer)
      return [{ question, operator, answer }];
    line.problem(`A condition of ${of} needs a question, an answer, and an operator out of ${comparisons.join(" ")}.`);
    return [];
  });

export function readOptionRule(reader: Reader): ShownWhen | undefined {
  const rule = reader.extension(url.optionShownWhen);
  if (!rule) return undefined;
  const behavior = rule.extensionValue("behavior");
  const conditions = conditionsIn(rule, "an option");
  return conditions.length === 0 ? undefined : { behavior: behavior === "any" ? "any" : "all", conditions };
}

export function readShownWhen(reader: Reader): ShownWhen | undefined {
  const behavior = reader.text("enableBehavior");
  const conditions = reader.list("enableWhen").flatMap((reader): Condition[] => {
    const question = reader.text("question");
    const operator = reader.text("operator");
    const answer = valueFrom(reader, "answer");
    if (!question) reader.problem("A condition must name a question.", "question");
    if (!operator || !comparisons.includes(operator as Comparison)) {
      reader.problem(`The operator must be one of: ${comparisons.join(" ")}.`, "operator");
      return [];
    }
    if (operator === "exists" && answer && answer.type !== "boolean")
      reader.problem('"exists" is compared with answerBoolean.', "answer[x]");
    return question && answer ? [{ question, operator: operator as Comparison, answer }] : [];
  });
  if (conditions.length === 0) return undefined;
  if (behavior !== undefined && behavior !== "all" && behavior !== "any")
    reader.problem('"enableBehavior" must be all or any.', "enableBehavior");
  if (conditions.length > 1 && behavior === undefined)
    reader.problem(
      'With several conditions, "enableBehavior" must say all or any (FHIR rule que-12).',
      "enableBehavior",
    );
  return { behavior: behavior === "any" ? "any" : "all", conditions };
}

export function readPosting(reader: Reader): PostingTarget | undefined {
  const parts = reader.extension(url.posting);
  if (!parts) return undefined;
  const field = parts.extensionValue("field");
  const rule = parts.extensionValue("rule") ?? "ask";
  if (typeof field !== "string") return parts.problem("A posting line must name a chart field.");
  if (!postingRules.includes(rule as PostingRule))
    return parts.problem(`The posting rule must be one of: ${postingRules.join(", ")}.`);
  return { field, rule: rule as PostingRule };
}

export function readEnds(reader: Reader): readonly [string, string] | undefined {
  const parts = reader.extension(url.scaleEnds);
  if (!parts) return undefined;
  const low = parts.extensionValue("low");
  const high = parts.extensionValue("high");
  return typeof low === "string" && typeof high === "string"
    ? [low, high]
    : parts.problem('The ends of a scale need "low" and "high" (words).');
}

export function readAlert(reader: Reader): AlertRule | undefined {
  const parts = reader.extension(url.alert);
  if (!parts) return undefined;
  const message = parts.extensionValue("message");
  if (typeof message !== "string") return parts.problem('An alert needs a "message".');
  const test = readAlertTest(parts);
  return test && { test, message };
}

function readAlertTest(parts: Reader): AlertTest | undefined {
  if (parts.extensionValue("unanswered") === true) return { kind: "unanswered" };
  const answers = parts.extensions("answer").flatMap((a) => valueFrom(a, "value") ?? []);
  if (answers.length > 0) return { kind: "answers", answers };
  const conditions = conditionsIn(parts, "an alert");
  if (conditions.length > 0) {
    const behavior = parts.extensionValue("behavior") === "any" ? "any" : "all";
    return { kind: "condition", rule: { behavior, conditions } };
  }
  const low = parts.extensionValue("from");
  const high = parts.extensionValue("to");
  if (typeof low !== "number" && typeof high !== "number")
    return parts.problem('An alert needs "answer", "from" or "to" (numbers), "unanswered" or "condition".');
  return {
    kind: "numbers",
    ...(typeof low === "number" ? { low } : {}),
    ...(typeof high === "number" ? { high } : {}),
  };
}

export function readScore(reader: Reader): ScoreRule | undefined {
  const parts = reader.extension(url.score);
  if (!parts) return undefined;
  // Written anew from the rule at export; one that came alone, without our rule, is kept as it is.
  reader.extension(url.calculated);
  const method = parts.extensionValue("method");
  const counted = parts.extensions("item").map((i) => ({
    id: String(i.json["valueString"] ?? i.extensionValue("linkId") ?? ""),
    weight: i.extensionValue("weight"),
    reversed: i.extensionValue("reversed") === true,
  }));
  const items = counted.map((i) => i.id);
  const factor = parts.extensionValue("factor");
  const weights = Object.fromEntries(counted.flatMap((i) => (typeof i.weight === "number" ? [[i.id, i.weight]] : [])));
  const reversed = counted.flatMap((i) => (i.reversed ? [i.id] : []));
  const fewest = parts.extensionValue("fewestAnswered");
  const proration = parts.extensionValue("proration") ?? "none";
  const missingSource = parts.extensionValue("missingSource");
  const bandsSource = parts.extensionValue("bandsSource");
  const unread = parts
    .extensions("unread")
    .flatMap((u) => (typeof u.json["valueString"] === "string" ? [u.json["valueString"]] : []));
  if (method !== "sum" && method !== "mean" && method !== "count")
    return parts.problem("A score's method must be sum, mean or count.");
  if (proration !== "none" && proration !== "person-mean")
    return parts.problem("A score's proration must be none or person-mean.");
  const bands = parts.extensions("band").flatMap((second) => {
    const low = second.extensionValue("low");
    const high = second.extensionValue("high");
    const label = second.extensionValue("label");
    const source = second.extensionValue("source");
    const alert = second.extensionValue("alert");
    if (typeof low === "number" && typeof high === "number" && typeof label === "string" && typeof source === "string")
      return [{ low, high, label, source, ...(typeof alert === "string" ? { alert } : {}) }];
    second.problem("A band needs low, high, label and source.");
    return [];
  });
  return {
    method,
    items,
    ...(Object.keys(weights).length > 0 ? { weights } : {}),
    ...(reversed.length > 0 ? { reversed } : {}),
    ...(typeof factor === "number" ? { factor } : {}),
    fewestAnswered: typeof fewest === "number" ? fewest : items.length,
    proration,
    ...(typeof missingSource === "string" ? { missingSource } : {}),
    ...(unread.length > 0 ? { unread } : {}),
    ...(typeof bandsSource === "string" ? { bandsSource } : {}),
    bands,
    ...readChangeRule(parts),
  };
}
function readChangeRule(score: Reader): Pick<ScoreRule, "change"> {
  const parts = score.extension("change");
  if (!parts) return {};
  const better = parts.extensionValue("better");
  if (better !== "lower" && better !== "higher") {
    parts.problem('What is better of a score must be "lower" or "higher".');
    return {};
  }
  const sourced = (name: Exclude<ChangeNumber, "mean" | "sd">): Sourced | undefined => {
    const found = parts.extension(name);
    const [value, source] = [found?.extensionValue("value"), found?.extensionValue("source")];
    if (!found) return undefined;
    if (typeof value !== "number" || typeof source !== "string")
      return found.problem("A number that is published needs value and source.");
    return isChangeNumber(name, value)
      ? { value, source }
      : found.problem(
          name === "reliability" ? "A reliability is from 0 to below 1." : "How large a change has to be is above 0.",
        );
  };
  const norm = (name: string): Norm | undefined => {
    const found = parts.extension(name);
    if (!found) return undefined;
    const [mean, sd, source] = ["mean", "sd", "source"].map((one) => found.extensionValue(one));
    return typeof mean === "number" && typeof sd === "number" && isChangeNumber("sd", sd) && typeof source === "string"
      ? { mean, sd, source }
      : found.problem("A norm needs mean, sd (above 0) and source.");
  };
  const kind = parts.extension("reliability")?.extensionValue("kind");
  const reliability = sourced("reliability");
  const [clinical, general] = [norm("clinical"), norm("general")];
  const numbers = Object.fromEntries(
    changeNumbers.flatMap((name) => {
      const found = sourced(name);
      return found ? [[name, found]] : [];
    }),
  );
  return {
    change: {
      better,
      ...(reliability ? { reliability: { ...reliability, kind: kind === "test-retest" ? kind : "alpha" } } : {}),
      ...(clinical ? { clinical } : {}),
      ...(general ? { general } : {}),
      ...numbers,
    },
  };
}
