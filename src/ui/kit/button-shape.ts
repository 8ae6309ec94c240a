import { css } from "styled-components";

export type Weight = "primary" | "plain" | "quiet" | "danger";
/** How everything looks that is pressed. */
export const buttonShape = css<{ $weight: Weight }>`
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
  @media (hover: hover) {
    &:hover {
      background: var(--plum-wash);
      color: var(--ink);
    }
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
      @media (hover: hover) {
        &:hover {
          background: var(--plum-deep);
          color: var(--on-plum);
        }
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
