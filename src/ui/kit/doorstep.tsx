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
/** A practice's own picture beside its name, which says the same in words. */
export const Logo = styled.img`
  display: block;
  align-self: flex-start;
  max-height: 3rem;
  max-width: 12rem;
  object-fit: contain;
  margin-block-end: 0.5rem;
`;
const Whose = styled.address`
  font-style: normal;
  font-size: 0.9em;
  color: var(--soft);
  white-space: pre-line;
  border-block-start: 1px solid var(--rule);
  padding-block-start: 0.75rem;
`;

/** A page before anybody is known: one thing to do, beside a ruled margin. */
export function Doorstep({
  name = "Kind Ledger",
  address = "",
  logo = null,
  language = "en",
  children,
}: {
  readonly name?: string;
  /** Of the practice, as it was typed: so that whoever opens the page can tell whose it is. */
  readonly address?: string;
  /** Where its own picture is. */
  readonly logo?: string | null;
  readonly language?: string;
  readonly children: ReactNode;
}) {
  useDocumentLanguage(language);
  return (
    <Outer lang={language} dir={directionOf(language)}>
      <Inner>
        <Name>
          {logo !== null && <Logo src={logo} alt="" />}
          {name}
        </Name>
        {children}
        {address !== "" && (
          <Whose>
            <bdi>{name}</bdi>
            {"\n"}
            <bdi>{address}</bdi>
          </Whose>
        )}
      </Inner>
    </Outer>
  );
}
