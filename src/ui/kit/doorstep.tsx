"use client";
import type { ReactNode } from "react";
import { directionOf } from "@/core/shared";
import styled from "styled-components";
import { useDocumentLanguage } from "./document-language";

const Outer = styled.main`
  min-height: 100dvh;
  display: grid;
  justify-items: center;
  align-content: start;
  padding: clamp(1.5rem, 10vh, 7rem) 1.25rem 3rem;
  font-size: 1.0625rem;
`;
const Inner = styled.div`
  width: min(26rem, 100%);
  border-inline-start: 1px solid var(--rule-strong);
  padding-inline-start: 1.5rem;
  display: flex;
  flex-direction: column;
  gap: 1.25rem;
  min-width: 0;
`;
const Name = styled.p`
  font: 500 1.05rem/1.3 var(--serif);
  color: var(--plum);
`;

/** A page before anybody is known: one thing to do, beside a ruled margin. */
export function Doorstep({
  name = "Kind Ledger",
  language = "en",
  children,
}: {
  readonly name?: string;
  readonly language?: string;
  readonly children: ReactNode;
}) {
  useDocumentLanguage(language);
  return (
    <Outer lang={language} dir={directionOf(language)}>
      <Inner>
        <Name>{name}</Name>
        {children}
      </Inner>
    </Outer>
  );
}
