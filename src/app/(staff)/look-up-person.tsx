"use client";
import { useState } from "react";
import { dateWords } from "@/core/questionnaire";
import { LookUp } from "@/ui/kit/pick";
import { useTimeFrame } from "@/ui/kit/time";
import { findPeopleAction } from "./actions";
import { useFound } from "./use-found";

export interface LookUpPersonProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (id: string) => void;
  /** Who stands there from the start. */
  readonly known?: { readonly id: string; readonly name: string } | undefined;
  readonly problem: string | undefined;
}
const mostShown = 12;
/** One client, found by what is known of them. */
export function LookUpPerson({ label, value, onChange, known, problem }: LookUpPersonProps) {
  const { locale } = useTimeFrame();
  const [sought, setSought] = useState("");
  const [chosen, setChosen] = useState(known && { value: known.id, label: known.name });
  const { answer } = useFound({ sought, most: mostShown }, findPeopleAction);
  const found = (answer?.lines ?? [])
    .filter(({ archived }) => !archived)
    .map(({ id, name, birthDate }) => ({
      value: id as string,
      label: birthDate ? `${name}, ${dateWords(birthDate, locale)}` : name,
    }));
  const options = chosen && !found.some((one) => one.value === chosen.value) ? [chosen, ...found] : found;
  return (
    <LookUp
      label={label}
      value={value}
      options={options}
      onTyped={(typed) => setSought(typed === chosen?.label ? "" : typed.trim())}
      onChange={(id) => {
        setChosen(options.find((one) => one.value === id));
        onChange(id);
      }}
      problem={problem}
    />
  );
}
