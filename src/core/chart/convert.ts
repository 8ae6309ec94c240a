import { textOf, type AnswerValue, type Question } from "../questionnaire";
import { ageOn } from "./identity";
import type { ChartField } from "./fields";

/** What numbers in the chart are counted in, as UCUM codes. */
export type ChartUnit = "kg" | "cm" | "Cel";

interface Measure {
  readonly unit: ChartUnit;
  readonly factor: number;
  /** Taken off before it is multiplied. */
  readonly zero?: number;
}
/**
 * How many of the chart's unit one is. UCUM, version 2.1, tables 2 to 4 of its units (by code), with the factors of the
 * international yard and pound agreement (exact); the plain words are common practice.
 */
const measures: Readonly<Record<string, Measure>> = {
  kg: { unit: "kg", factor: 1 },
  g: { unit: "kg", factor: 0.001 },
  "[lb_av]": { unit: "kg", factor: 0.45359237 },
  "[oz_av]": { unit: "kg", factor: 0.028349523125 },
  "[stone_av]": { unit: "kg", factor: 6.35029318 },
  cm: { unit: "cm", factor: 1 },
  m: { unit: "cm", factor: 100 },
  mm: { unit: "cm", factor: 0.1 },
  "[in_i]": { unit: "cm", factor: 2.54 },
  "[ft_i]": { unit: "cm", factor: 30.48 },
  Cel: { unit: "Cel", factor: 1 },
  "[degF]": { unit: "Cel", factor: 5 / 9, zero: 32 },
  K: { unit: "Cel", factor: 1, zero: 273.15 },
};
const spoken: Readonly<Record<string, string>> = {
  kilogram: "kg",
  kilograms: "kg",
  kilo: "kg",
  kilos: "kg",
  gram: "g",
  grams: "g",
  lb: "[lb_av]",
  lbs: "[lb_av]",
  pound: "[lb_av]",
  pounds: "[lb_av]",
  oz: "[oz_av]",
  st: "[stone_av]",
  stone: "[stone_av]",
  metre: "m",
  metres: "m",
  meter: "m",
  meters: "m",
  centimetre: "cm",
  centimetres: "cm",
  in: "[in_i]",
  inch: "[in_i]",
  inches: "[in_i]",
  '"': "[in_i]",
  "″": "[in_i]",
  ft: "[ft_i]",
  foot: "[ft_i]",
  feet: "[ft_i]",
  "'": "[ft_i]",
  "′": "[ft_i]",
  "°c": "Cel",
  c: "Cel",
  celsius: "Cel",
  "°f": "[degF]",
  f: "[degF]",
  fahrenheit: "[degF]",
};
const measureOf = (unit: string): Measure | undefined => {
  const said = unit.trim();
  return measures[said] ?? measures[spoken[said.toLowerCase()] ?? ""];
};

/**
 * An amount in the chart's unit, to a tenth; undefined where the unit is not one of its kind.
 *
 * @param unit a UCUM code or a plain word
 */
export function inChartUnit(amount: number, unit: string, to: ChartUnit): number | undefined {
  const measure = measureOf(unit);
  return measure?.unit === to ? tenth((amount - (measure.zero ?? 0)) * measure.factor) : undefined;
}
const tenth = (amount: number): number => Math.round(amount * 10) / 10;

/** A number, and what follows it up to the next. */
const amounts = /(-?\d+(?:[.,]\d+)?)\s*([^\d\s.,;-]+)?/g;
/** `5 ft 11 in`, `11 st 4 lb`, `180cm`: an amount in words, in the chart's unit; undefined where it is none. */
export function readAmount(text: string, to: ChartUnit): number | undefined {
  const parts = [...text.matchAll(amounts)];
  const said = text.replaceAll(amounts, "").trim();
  if (parts.length === 0 || parts.length > 2 || /[\p{L}\p{N}]/u.test(said)) return undefined;
  let sum = 0;
  for (const [, digits = "", unit] of parts) {
    const amount = Number(digits.replace(",", "."));
    if (unit === undefined) {
      if (parts.length > 1) return undefined;
      return tenth(amount);
    }
    const measure = measureOf(unit);
    if (measure?.unit !== to || (parts.length > 1 && measure.zero !== undefined)) return undefined;
    sum += (amount - (measure.zero ?? 0)) * measure.factor;
  }
  return tenth(sum);
}

/**
 * What answers say in a chart field: options and several answers joined by "; ", amounts in the field's unit, a date as
 * an age where a number is kept, yes and no in words. What cannot be converted stands as it was said.
 *
 * @param on the day it was said, as YYYY-MM-DD, for ages
 */
export function chartValue(
  question: Pick<Question, "type" | "unit">,
  values: readonly AnswerValue[],
  field: ChartField,
  on: string | undefined,
): string {
  return values
    .map((value) => oneValue(question, value, field, on).trim())
    .filter((text) => text !== "")
    .join("; ");
}
function oneValue(
  question: Pick<Question, "type" | "unit">,
  value: AnswerValue,
  field: ChartField,
  on: string | undefined,
): string {
  if (field.kind === "number" && value.type === "date" && on !== undefined) return String(ageOn(value.value, on));
  if (field.kind !== "number" || field.unit === undefined) return textOf(value);
  const { unit } = field;
  if (value.type === "quantity") {
    const amount = inChartUnit(value.value.value, value.value.unit ?? question.unit?.code ?? unit, unit);
    return amount === undefined ? textOf(value) : String(amount);
  }
  if (value.type === "string") {
    const amount = readAmount(value.value, unit);
    return amount === undefined ? textOf(value) : String(amount);
  }
  return textOf(value);
}
