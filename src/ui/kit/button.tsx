"use client";
import { Link } from "./link";
import type { ComponentProps } from "react";
import { Button as AriaButton, type ButtonProps as AriaButtonProps } from "react-aria-components/Button";
import styled, { css } from "styled-components";

type Weight = "primary" | "plain" | "quiet" | "danger";
const shape = css<{ $weight: Weight }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 0.5rem;
  min-height: var(--control);
  padding: 0.3rem 0.9rem;
  font: 600 var(--text)/1.25 var(--sans);
  text-decoration: none;
  cursor: pointer;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--leaf);
  color: var(--ink);
  transition: background 120ms;
  &:hover,
  &[data-hovered] {
    background: var(--plum-wash);
    color: var(--ink);
  }
  &[data-busy] {
    opacity: 0.75;
    cursor: progress;
  }
  &[data-disabled] {
    opacity: 0.55;
    cursor: not-allowed;
  }
  ${({ $weight }) =>
    $weight === "primary" &&
    css`
      background: var(--plum);
      border-color: var(--plum);
      color: var(--on-plum);
      &:hover,
      &[data-hovered] {
        background: var(--plum-deep);
        color: var(--on-plum);
      }
    `}
  ${({ $weight }) =>
    $weight === "quiet" &&
    css`
      border-color: transparent;
      background: none;
      color: var(--plum);
      min-height: 1.75rem;
      padding: 0.15rem 0.4rem;
      font-weight: 500;
      text-decoration: underline;
      text-underline-offset: 0.2em;
      text-decoration-thickness: 1px;
    `}
  ${({ $weight }) =>
    $weight === "danger" &&
    css`
      border-color: var(--madder);
      color: var(--madder);
    `}
`;
const Styled = styled(AriaButton)<{ $weight: Weight }>`
  ${shape}
`;
const StyledLink = styled(Link)<{ $weight: Weight }>`
  ${shape}
`;

export interface ButtonProps extends Omit<AriaButtonProps, "className" | "style" | "isPending"> {
  readonly weight?: Weight;
  /** What was pressed is under way: pressing again does nothing. React Aria's own pending state announces by a label that may be gone when it is read. */
  readonly busy?: boolean;
}
export function Button({ weight = "plain", busy = false, onPress, ...props }: ButtonProps) {
  return (
    <Styled
      $weight={weight}
      {...props}
      {...(busy || !onPress ? {} : { onPress })}
      {...(busy ? { "data-busy": true } : {})}
    />
  );
}
export interface ButtonLinkProps extends Omit<ComponentProps<typeof Link>, "className" | "style"> {
  readonly weight?: Weight;
}
export function ButtonLink({ weight = "plain", ...props }: ButtonLinkProps) {
  return <StyledLink $weight={weight} {...props} />;
}
