"use client";
import { useEffect } from "react";
import { directionOf } from "@/core/shared";

/** The document speaks the page's language, also where one page leads to the next without a load. */
export function useDocumentLanguage(language: string): void {
  useEffect(() => {
    document.documentElement.lang = language;
    document.documentElement.dir = directionOf(language);
  }, [language]);
}
