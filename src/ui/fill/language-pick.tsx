"use client";
import { memo, useEffect, useRef } from "react";
import styled from "styled-components";
import { clientLanguages, languageNames } from "@/i18n/languages";

export interface LanguagePickProps {
  readonly label: string;
  readonly value: string;
  /** What was typed is kept first. */
  readonly flush: () => Promise<boolean>;
  readonly choose: (language: string) => Promise<void>;
}
/**
 * The page's language, and the others behind it. The browser's own disclosure: a list to pick from would be a third of
 * the page's script.
 */
export const LanguagePick = memo(function LanguagePick({ label, value, flush, choose }: LanguagePickProps) {
  const place = useRef<HTMLDetailsElement>(null);
  const close = (): void => place.current?.removeAttribute("open");
  useEffect(() => {
    const onPress = ({ target }: PointerEvent): void => {
      if (target instanceof Node && !place.current?.contains(target)) place.current?.removeAttribute("open");
    };
    document.addEventListener("pointerdown", onPress);
    return () => document.removeEventListener("pointerdown", onPress);
  }, []);
  return (
    <Place
      ref={place}
      onBlur={(event) => {
        // Where a press gives no focus (Safari), nothing is known of where it went; the press itself is heard below.
        if (event.relatedTarget && !event.currentTarget.contains(event.relatedTarget)) close();
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        close();
        place.current?.querySelector("summary")?.focus();
      }}
    >
      <summary aria-label={`${label}: ${languageNames[value as keyof typeof languageNames] ?? value}`}>
        {languageNames[value as keyof typeof languageNames] ?? value}
      </summary>
      <ul>
        {clientLanguages
          .filter((language) => language !== value)
          .map((language) => (
            <li key={language}>
              <button
                type="button"
                lang={language}
                onClick={() => {
                  close();
                  void flush().then((kept) => (kept ? choose(language) : undefined));
                }}
              >
                {languageNames[language]}
              </button>
            </li>
          ))}
      </ul>
    </Place>
  );
});
const Place = styled.details`
  position: relative;
  font-size: var(--small);
  & > summary {
    cursor: pointer;
    padding: 0.35rem 0.6rem;
    border: 1px solid var(--rule-strong);
    border-radius: var(--corner);
    background: var(--leaf);
  }
  & > ul {
    position: absolute;
    inset-inline-end: 0;
    z-index: 3;
    min-width: 100%;
    background: var(--leaf);
    border: 1px solid var(--rule-strong);
    border-radius: var(--corner);
  }
  & button {
    width: 100%;
    min-height: 2.5rem;
    padding: 0.35rem 0.9rem;
    font: inherit;
    color: var(--ink);
    text-align: start;
    background: none;
    border: 0;
    cursor: pointer;
    white-space: nowrap;
  }
  & button:hover {
    background: var(--plum-wash);
  }
`;
