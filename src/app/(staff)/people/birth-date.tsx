"use client";
import { DateField } from "@/ui/kit/date-field";
import { useProblem } from "@/ui/kit/field-problems";
import { useTimeFrame } from "@/ui/kit/time";

export interface BirthDateProps {
  /** YYYY-MM-DD, or the empty text. */
  readonly value: string;
  readonly onChange: (day: string) => void;
}
/** Within a form, whose problems it shows. */
export function BirthDate({ value, onChange }: BirthDateProps) {
  const { locale } = useTimeFrame();
  const problem = useProblem(undefined, "birthDate");
  return <DateField label="Birth date" value={value} onChange={onChange} locale={locale} problem={problem} />;
}
