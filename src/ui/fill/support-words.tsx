import type { Support } from "@/core/packet";
import { directionOf } from "@/core/shared";
import { isClientLanguage, languageNames } from "@/i18n/languages";
import type { FillWords } from "@/i18n/translator";

export interface SupportWordsProps {
  readonly support: Support;
  readonly language: string;
  readonly words: FillWords;
}
/** Whom to call. Where that is not written in the reader's language, it is said. */
export function SupportWords({ support, language, words }: SupportWordsProps) {
  const name = isClientLanguage(support.language) ? languageNames[support.language] : support.language;
  return (
    <>
      {support.language !== language && <strong>{words("supportIn", { language: name })} </strong>}
      <span lang={support.language} dir={directionOf(support.language)} style={{ whiteSpace: "pre-wrap" }}>
        {support.text}
      </span>
    </>
  );
}
