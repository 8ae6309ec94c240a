"use client";
import { useEffect } from "react";
import { fillTranslator } from "@/i18n/page-words";
import { Button } from "@/ui/kit/button";
import { Doorstep } from "@/ui/kit/doorstep";
import type { FillAppProps } from "@/ui/fill/fill-app";
import { SupportWords } from "@/ui/fill/support-words";
import type { FillView } from "@/usecases/filling";

/** Leaves nothing in the page's memory, nor a page to come back to. */
const leave = (): void => window.location.replace("/sign-in");

/**
 * On a device of the practice, once the packet came back: thanks, whom to call where something alarms, and nothing of
 * the answers.
 */
export function HandedThanks({
  words: { language, messages },
  view,
  alarming,
}: Pick<FillAppProps, "words"> & {
  readonly view: FillAppProps["view"] & Pick<FillView, "finish">;
  readonly alarming: boolean;
}) {
  const t = fillTranslator(language, messages);
  useEffect(() => {
    window.addEventListener("popstate", leave);
    return () => window.removeEventListener("popstate", leave);
  }, []);
  return (
    <Doorstep name={view.practiceName} logo={view.logo} language={language}>
      <h1 tabIndex={-1} ref={(heading) => heading?.focus()}>
        {t("doneTitle")}
      </h1>
      <p dir="auto" style={{ whiteSpace: "pre-wrap" }}>
        {view.finish.text ?? t("doneText", { practice: view.practiceName })}
      </p>
      {alarming && view.support && (
        <p>
          <SupportWords support={view.support} language={language} words={t} />
        </p>
      )}
      <p>{t("handedOver", { practice: view.practiceName })}</p>
      <div>
        <Button weight="primary" onPress={leave}>
          {t("closeMine")}
        </Button>
      </div>
    </Doorstep>
  );
}
