"use client";
import { memo } from "react";
import { clientLanguages, languageNames } from "@/i18n/languages";
import { Pick } from "@/ui/kit/pick";

const languages = clientLanguages.map((value) => ({ value, label: languageNames[value] }));

export interface LanguagePickProps {
  readonly label: string;
  readonly value: string;
  /** What was typed is kept first. */
  readonly flush: () => Promise<boolean>;
  readonly choose: (language: string) => Promise<void>;
}
export const LanguagePick = memo(function LanguagePick({ label, value, flush, choose }: LanguagePickProps) {
  return (
    <Pick
      small
      bare
      label={label}
      value={value}
      options={languages}
      onChange={(to) => void flush().then((kept) => (kept ? choose(to) : undefined))}
    />
  );
});
