import { lineKinds, markOf, type LineKind } from "@/core/questionnaire";

export const kindWords: Readonly<Record<LineKind, string>> = {
  "short-text": "Short text",
  "long-text": "Long text",
  "yes-no": "Yes or no",
  "one-of": "One of",
  "drop-down": "One of, in a drop-down",
  "look-up": "One of, found by typing",
  "one-or-other": "One of, or something else",
  "several-of": "Several of",
  scale: "Scale",
  "whole-number": "Whole number",
  decimal: "Number",
  amount: "Amount with a unit",
  date: "Date",
  time: "Time",
  email: "E-mail",
  phone: "Phone",
  "web-address": "Web address",
  "postal-address": "Postal address",
  file: "File or photo",
  text: "Text to read",
  terms: "Terms to open and agree to",
  section: "Section",
  grid: "Grid: rows that share options",
  repeating: "Group that repeats",
  score: "Score",
  signature: "Place to sign",
};
export const kindOptions = lineKinds.map((kind) => ({
  value: kind,
  label: `${kindWords[kind]}${markOf(kind) ? `  ${markOf(kind)}` : ""}`,
}));
