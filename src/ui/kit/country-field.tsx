"use client";
import type { Option } from "./choice-fields";
import { useProblem } from "./field-problems";
import { LookUp } from "./pick";

export interface CountryFieldProps {
  /** Codes as ISO 3166-1 alpha-2. */
  readonly countries: readonly Option[];
  readonly value: string;
  readonly onChange: (code: string) => void;
  readonly help?: string;
}
/** A country, found by typing. Its problem is the form's for `country`. */
export function CountryField({ countries, value, onChange, help }: CountryFieldProps) {
  const problem = useProblem(undefined, "country");
  return <LookUp label="Country" value={value} options={countries} onChange={onChange} problem={problem} help={help} />;
}
