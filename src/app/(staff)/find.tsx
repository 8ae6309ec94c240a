"use client";
import { useRef, useState, type ComponentType } from "react";
import styled, { css } from "styled-components";
import type { Right } from "@/core/team";
import { untilLoaded } from "@/ui/kit/by-need";
import { Soft } from "@/ui/kit/page";
import { Key, Shortcuts } from "@/ui/kit/shortcuts";
import type { FinderProps } from "./finder";

const label = "Find a person, a questionnaire or a page";

/**
 * Where one finds: a button in the spine that becomes a field. What looks things up comes when it is wanted, as most
 * pages are left again without it; what is typed before it has come is typed into a plain field in its place, never
 * into the page.
 */
export function Find({ rights }: { readonly rights: readonly Right[] }) {
  const [open, setOpen] = useState(false);
  const [sought, setSought] = useState("");
  const [come, setCome] = useState<{ readonly Finder: ComponentType<FinderProps> } | "unreachable">();
  const asked = useRef(false);
  const button = useRef<HTMLButtonElement>(null);
  const cameFrom = useRef<Element>(null);
  const start = (): void => {
    cameFrom.current = document.activeElement;
    setSought("");
    setOpen(true);
    if (asked.current) return;
    asked.current = true;
    void untilLoaded(
      () => import("./finder"),
      () => setCome("unreachable"),
    ).then(({ Finder }) => setCome({ Finder }));
  };
  const done = (back: boolean): void => {
    setOpen(false);
    if (back)
      requestAnimationFrame(() => {
        (cameFrom.current instanceof HTMLElement && cameFrom.current.isConnected
          ? cameFrom.current
          : button.current
        )?.focus();
      });
  };
  const box = () => {
    if (!open)
      return (
        <Open ref={button} type="button" onClick={start}>
          Find <Key>/</Key>
        </Open>
      );
    if (typeof come === "object")
      return <come.Finder rights={rights} label={label} sought={sought} onSought={setSought} onDone={done} />;
    return (
      <>
        <Early
          autoFocus
          aria-label={label}
          dir="auto"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          onBlur={() => done(false)}
          onKeyDown={(event) => {
            if (event.key === "Escape") done(true);
          }}
        />
        {come === "unreachable" && <Soft role="status">Nothing can be looked up just now.</Soft>}
      </>
    );
  };
  return (
    <Place>
      <Shortcuts list={[{ key: "/", does: "find a person, a questionnaire or a page", run: start }]} />
      {box()}
    </Place>
  );
}
const Place = styled.div`
  padding-inline: 0.75rem;
  min-height: var(--field);
  @media (max-width: 52rem) {
    padding: 0;
    align-self: center;
    width: 9.5rem;
  }
`;
const shape = css`
  width: 100%;
  padding: 0.3rem 0.6rem;
  font: inherit;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
`;
const Open = styled.button`
  ${shape} min-height: var(--field);
  display: flex;
  gap: 0.75rem;
  align-items: center;
  justify-content: space-between;
  text-align: start;
  cursor: pointer;
  color: var(--soft);
  background: none;
  &:hover {
    background: var(--plum-wash);
    color: var(--ink);
  }
`;
const Early = styled.input`
  ${shape} min-height: var(--field);
  color: var(--ink);
  background: var(--leaf);
`;
