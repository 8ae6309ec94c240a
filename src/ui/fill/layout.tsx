"use client";
import { useRef, type CSSProperties, type ReactNode, type RefObject } from "react";
import styled from "styled-components";
import { useFocusInSight } from "./in-sight";

const Shell = styled.div`
  max-width: 40rem;
  margin-inline: auto;
  min-height: 100dvh;
  display: flex;
  flex-direction: column;
  padding-inline: 1.25rem;
  font-size: 1.0625rem;
`;
const Top = styled.header`
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  padding-block: 0.9rem;
  border-block-end: 1px solid var(--rule);
  & > :first-child {
    font: 500 1.05rem/1.3 var(--serif);
    color: var(--plum);
  }
`;
const Whole = styled.fieldset`
  display: contents;
`;
const Body = styled.main`
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 1.2rem;
  padding-block: 1rem 2rem;
`;
const Foot = styled.footer`
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  padding-block: 1rem;
  border-block-start: 1px solid var(--rule);
  position: sticky;
  bottom: 0;
  background: var(--paper);
  flex-wrap: wrap;
  /* On a low window it would cover what holds the focus. */
  @media (max-height: 44rem) {
    position: static;
  }
`;
const Where = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 1rem;
  & > p {
    flex: 1;
    min-width: 0;
    color: var(--soft);
  }
  & > p + * {
    flex: none;
  }
`;
const Whose = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 0.6rem;
  min-width: 0;
`;
const Logo = styled.img`
  max-height: 1.6rem;
  max-width: 6rem;
  object-fit: contain;
`;
const Bar = styled.div`
  height: 3px;
  margin-block-start: -0.6rem;
  background:
    linear-gradient(var(--plum), var(--plum)) no-repeat left / var(--done) 100%,
    var(--rule);
  &:dir(rtl) {
    background-position: right;
  }
`;
const Title = styled.h1`
  outline: none;
`;
export const Note = styled.p`
  color: var(--soft);
`;

export interface LayoutProps {
  readonly lang: string;
  readonly dir: "ltr" | "rtl";
  readonly practice: string;
  readonly logo: string | null;
  /** How saving goes. */
  readonly saved: ReactNode;
  /** Nothing can be typed before the page's script runs. */
  readonly ready: boolean;
  /** Inside a page that has its own heading and main part. */
  readonly embedded: boolean;
  readonly progress: ReactNode;
  readonly languages: ReactNode;
  /** From 0 to 1. */
  readonly done: number;
  readonly title: string;
  readonly top: RefObject<HTMLHeadingElement | null>;
  readonly foot: ReactNode;
  readonly children: ReactNode;
}
/** The client's page: where they are, one thing at a time, and on. */
export function Layout({ embedded, top, ...props }: LayoutProps) {
  const whole = useRef<HTMLDivElement>(null);
  const foot = useRef<HTMLElement>(null);
  const onFocus = useFocusInSight(whole, foot);
  return (
    <Shell lang={props.lang} dir={props.dir} ref={whole} onFocus={onFocus}>
      <Top>
        <Whose>
          {props.logo !== null && <Logo src={props.logo} alt="" />}
          {props.practice}
        </Whose>
        {props.saved}
      </Top>
      <Whole disabled={!props.ready} role="none">
        <Body as={embedded ? "div" : "main"}>
          <Where>
            <p>{props.progress}</p>
            {props.languages}
          </Where>
          <Bar aria-hidden="true" style={{ "--done": `${props.done * 100}%` } as CSSProperties} />
          <Title as={embedded ? "h2" : "h1"} ref={top} tabIndex={-1} dir="auto">
            {props.title}
          </Title>
          {props.children}
        </Body>
        <Foot ref={foot}>{props.foot}</Foot>
      </Whole>
    </Shell>
  );
}
