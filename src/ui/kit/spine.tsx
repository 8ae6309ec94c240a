"use client";
import { Link } from "./link";
import { usePathname } from "next/navigation";
import type { ReactNode } from "react";
import styled from "styled-components";
import type { Right } from "@/core/team";

/** The five places of the practice, and what one may to go there; without a right, everybody goes. */
export const places = [
  {
    href: "/day",
    name: "Day sheet",
    also: ["/week", "/visits", "/packets", "/post-room"],
    right: "day.read",
  },
  { href: "/returns", name: "Returns", also: [], right: "answers.read" },
  { href: "/people", name: "People", also: ["/notes", "/send"], right: "people.read" },
  { href: "/library", name: "Library", also: [], right: "library.read" },
  { href: "/office", name: "Office", also: [], right: undefined },
] as const satisfies readonly Place[];

interface Place {
  readonly href: string;
  readonly name: string;
  readonly also: readonly string[];
  readonly right: Right | undefined;
}

const Frame = styled.div`
  display: grid;
  grid-template-columns: 9.25rem minmax(0, 1fr);
  min-height: 100dvh;
  /* Staff read between two clients: as much as a glance can hold, at no less than 14 px. */
  --text: 0.9375rem;
  --small: 0.875rem;
  --control: 2.125rem;
  --field: 2.125rem;
  --field-pad: 0.25rem 0.6rem;
  --area: 3.6rem;
  --row: 0.45rem;
  font-size: var(--text);
  line-height: 1.42;
  & h1 {
    font-size: 1.7rem;
    line-height: 1.15;
  }
  & h2 {
    font-size: 1.1rem;
  }
  @media (max-width: 52rem) {
    display: block;
  }
  @media print {
    display: block;
  }
`;
const Side = styled.div`
  background: var(--leaf);
  border-inline-end: 1px solid var(--rule-strong);
  padding: 1.1rem 0 1rem;
  display: flex;
  flex-direction: column;
  gap: 1rem;
  position: sticky;
  top: 0;
  height: 100dvh;
  overflow-y: auto;
  @media print {
    display: none;
  }
  @media (max-width: 52rem) {
    position: static;
    height: auto;
    flex-direction: row;
    flex-wrap: wrap;
    gap: 0.5rem;
    padding: 0.6rem 1rem;
    border-inline-end: 0;
    border-block-end: 1px solid var(--rule-strong);
  }
`;
const Name = styled.p`
  font: 500 1rem/1.25 var(--serif);
  color: var(--plum);
  padding-inline: 1rem 0.75rem;
  @media (max-width: 52rem) {
    padding: 0;
    align-self: center;
  }
`;
const Places = styled.ul`
  display: flex;
  flex-direction: column;
  @media (max-width: 52rem) {
    flex-direction: row;
    flex-wrap: wrap;
  }
`;
const Way = styled(Link)`
  display: block;
  padding: 0.42rem 0.9rem;
  color: var(--ink);
  text-decoration: none;
  border-inline-start: 3px solid transparent;
  &[aria-current] {
    border-color: var(--plum);
    font-weight: 600;
    color: var(--plum);
    background: linear-gradient(to right, var(--plum-wash), transparent);
  }
  &:hover {
    text-decoration: underline;
  }
  @media (max-width: 52rem) {
    padding: 0.4rem 0.6rem;
  }
  @media (max-width: 28rem) {
    padding: 0.4rem 0.45rem;
  }
`;
const Waits = styled.span`
  display: block;
  font: 400 var(--small)/1.3 var(--sans);
  color: var(--soft);
`;
const Person = styled.div`
  margin-block-start: auto;
  padding-inline: 1rem 0.75rem;
  font-size: var(--small);
  color: var(--soft);
  line-height: 1.4;
  @media (max-width: 52rem) {
    margin: 0;
    margin-inline-start: auto;
    padding: 0;
    display: flex;
    gap: 0.75rem;
    align-items: baseline;
  }
`;
const Out = styled.button`
  font: inherit;
  color: var(--plum);
  background: none;
  border: 0;
  padding: 0.3rem 0;
  text-decoration: underline;
  text-underline-offset: 0.2em;
  cursor: pointer;
`;
const Skip = styled.a`
  position: absolute;
  inset-inline-start: -99rem;
  &:focus {
    inset-inline-start: 1rem;
    top: 0.5rem;
    background: var(--leaf);
    padding: 0.5rem 1rem;
    z-index: 9;
  }
`;

export interface SpineProps {
  readonly practice: string;
  readonly person: string;
  readonly rights: readonly Right[];
  readonly signOut: () => Promise<void>;
  readonly find: ReactNode;
  /** What waits at a place, in a few words, by its address. */
  readonly waiting: Readonly<Record<string, string>>;
  /** Letters go no further than the Post room, so it is looked at often. */
  readonly postRoom: boolean;
  readonly children: ReactNode;
}
/** The narrow spine with its five places in words, and one page beside it. */
export function Spine({ practice, person, rights, signOut, find, waiting, postRoom, children }: SpineProps) {
  const path = usePathname();
  const isAt = (place: (typeof places)[number]): boolean =>
    [place.href, ...place.also].some((p) => path === p || path.startsWith(`${p}/`));
  return (
    <Frame>
      <Skip href="#page">To the page</Skip>
      <Side>
        <Name>{practice}</Name>
        {find}
        <nav aria-label="Places">
          <Places>
            {places
              .filter(({ right }) => right === undefined || rights.includes(right))
              .map((p) => (
                <li key={p.href}>
                  <Way href={p.href} aria-current={isAt(p) ? "page" : undefined}>
                    {p.name}
                    {waiting[p.href] && <Waits>{waiting[p.href]}</Waits>}
                  </Way>
                </li>
              ))}
            {postRoom && (
              <li>
                <Way href="/post-room" aria-current={path === "/post-room" ? "page" : undefined}>
                  Post room
                  <Waits>letters stay here</Waits>
                </Way>
              </li>
            )}
          </Places>
        </nav>
        <Person>
          {person}
          <form action={signOut}>
            <Out type="submit">Sign out</Out>
          </form>
        </Person>
      </Side>
      {children}
    </Frame>
  );
}
