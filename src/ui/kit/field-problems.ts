"use client";
import { createContext, use } from "react";

/**
 * Problems by field name, given by the form around. They stay until the form is sent again: a message that went away on
 * leaving the field would move the button from under the finger that is pressing it.
 */
export const FieldProblems = createContext<Readonly<Record<string, string>>>({});
export const useProblem = (own: string | undefined, name: string | undefined): string | undefined => {
  const all = use(FieldProblems);
  return own ?? (name === undefined ? undefined : all[name]);
};
