"use client";
import { usePathname, useSearchParams } from "next/navigation";
import { useEffect, useRef, type ReactNode, type RefObject } from "react";
import styled from "styled-components";

const Sheet = styled.main`
  max-width: 100rem;
  padding: 1.1rem 1.75rem 3rem;
  min-width: 0;
  @media (max-width: 44rem) {
    padding: 1rem 1rem 3rem;
  }
`;
const Head = styled.header`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 0.4rem 1.1rem;
  padding-block-end: 0.5rem;
  border-block-end: 2px solid var(--ink);
  & > h1 {
    flex: 1 1 14rem;
    min-width: 0;
    overflow-wrap: anywhere;
    outline: none;
  }
`;
const HeadMargin = styled.div`
  color: var(--soft);
  font-size: var(--small);
  line-height: 1.35;
`;

export interface PageProps {
  readonly title: ReactNode;
  /** Beside the title: when, who, from where and in what state. */
  readonly margin?: ReactNode;
  readonly actions?: ReactNode;
  readonly children: ReactNode;
}
/**
 * A page with its ruled margin: the start column says when, who, from where and in what state; the wide one says what.
 */
export function Page({ title, margin, actions, children }: PageProps) {
  const top = useRef<HTMLHeadingElement>(null);
  useFocusOnArrival(top);
  return (
    <Sheet id="page">
      <Head>
        <h1 ref={top} tabIndex={-1}>
          {title}
        </h1>
        {margin === undefined ? null : <HeadMargin>{margin}</HeadMargin>}
        {actions}
      </Head>
      {children}
    </Sheet>
  );
}

/**
 * Where one page leads to the next and what was pressed is gone, the focus goes to the new heading, and is not left
 * nowhere (WCAG 2.2, 2.4.3).
 */
function useFocusOnArrival(top: RefObject<HTMLHeadingElement | null>): void {
  const at = `${usePathname()}?${useSearchParams().toString()}`;
  useEffect(() => {
    const came = arrivedAt !== undefined && arrivedAt !== at;
    arrivedAt = at;
    if (came && (document.activeElement === null || document.activeElement === document.body))
      top.current?.focus({ preventScroll: true });
  }, [at, top]);
}
/** The page before this one; none where the browser loaded this one itself. */
let arrivedAt: string | undefined;

const RowGrid = styled.div<{ $tone: "plain" | "attention" | undefined }>`
  display: grid;
  grid-template-columns: var(--margin-column) minmax(0, 1fr);
  border-block-end: 1px solid var(--rule);
  background: ${({ $tone }) => ($tone === "attention" ? "var(--clay-wash)" : "none")};
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const RowMargin = styled.div`
  padding-block: var(--row);
  padding-inline: 0 0.75rem;
  color: var(--soft);
  font-size: var(--small);
  line-height: 1.4;
  border-inline-end: 1px solid var(--rule-strong);
  text-align: start;
  min-width: 0;
  overflow-wrap: anywhere;
  @media (max-width: 44rem) {
    border: 0;
    padding-block-end: 0;
  }
`;
const RowMain = styled.div`
  padding-block: var(--row);
  padding-inline: var(--inset) 0;
  min-width: 0;
  overflow-wrap: anywhere;
  @media (max-width: 44rem) {
    padding-inline-start: 0;
  }
`;

/** One ruled line of a page. */
export function MarginRow({
  margin,
  children,
  tone,
  id,
}: {
  readonly margin: ReactNode;
  readonly children: ReactNode;
  readonly tone?: "plain" | "attention";
  readonly id?: string;
}) {
  return (
    <RowGrid $tone={tone} {...(id ? { id } : {})}>
      <RowMargin>{margin}</RowMargin>
      <RowMain>{children}</RowMain>
    </RowGrid>
  );
}
export const Stack = styled.div<{ $gap?: string }>`
  display: flex;
  flex-direction: column;
  gap: ${({ $gap }) => $gap ?? "0.8rem"};
  min-width: 0;
`;
export const Cluster = styled.div<{ $gap?: string }>`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ $gap }) => $gap ?? "0.4rem 0.75rem"};
`;
export const Soft = styled.span`
  color: var(--soft);
`;
export const SectionTitle = styled.h2`
  padding-block: 0.9rem 0.25rem;
  border-block-end: 1px solid var(--rule-strong);
`;
/** Fields beside each other, as many as fit. */
export const Fields = styled.div<{ $least?: string }>`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, ${({ $least }) => $least ?? "13rem"}), 1fr));
  gap: 0.8rem;
  align-items: start;
`;

/** Read out and not seen. */
export const Spoken = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;
