import { clientWords } from "@/i18n/client-words";
import { clientLanguage } from "@/i18n/languages";
import { pinned } from "@/i18n/pinned";
import { linesOf } from "@/core/notes";
import type { Instant } from "@/core/shared";
import type { TakeHomeView } from "@/usecases/notes";
import { Doorstep } from "@/ui/kit/doorstep";
import { NoteLines } from "@/ui/kit/note-lines";
import { Moment, TimeFrameProvider } from "@/ui/kit/time";

export interface TakeHomeProps {
  readonly view: TakeHomeView;
  readonly now: Instant;
}
/** What the practitioner wrote down for the client: this document, and nothing else of the note it came from. */
export function TakeHome({ view, now }: TakeHomeProps) {
  const language = clientLanguage(view.language);
  const t = clientWords("takeHome", language);
  const frame = { locale: pinned(language === "en" ? view.locale : language), zone: view.zone, now };
  return (
    <Doorstep name={view.practiceName} logo={view.logo} language={language}>
      <h1>{t("title")}</h1>
      <TimeFrameProvider frame={frame}>
        <p>
          {t("from", { practice: view.practiceName })} <Moment at={view.sharedAt} as="day" />
        </p>
      </TimeFrameProvider>
      <NoteLines lines={linesOf(view.document)} />
      <p>{t("keep")}</p>
    </Doorstep>
  );
}
