"use client";
import { useRef, type ReactNode } from "react";
import { useButton, type AriaButtonProps } from "react-aria/useButton";
import styled from "styled-components";
import { buttonShape, type Weight } from "./button-shape";

const Styled = styled.button<{ $weight: Weight }>`
  ${buttonShape}
`;

export interface ButtonProps extends Omit<AriaButtonProps<"button">, "elementType" | "href" | "target" | "rel"> {
  readonly weight?: Weight;
  /** What was pressed is under way: pressing again does nothing. */
  readonly busy?: boolean;
  readonly children: ReactNode;
}
/**
 * React Aria's press, and nothing of its component: that brings progress bars, numbers and a live region with it, a
 * fifth of what the client's first page may weigh.
 */
export function Button({ weight = "plain", busy = false, children, onPress, ...props }: ButtonProps) {
  const own = useRef<HTMLButtonElement>(null);
  const { buttonProps, isPressed } = useButton({ ...props, ...(busy || !onPress ? {} : { onPress }) }, own);
  return (
    <Styled
      {...buttonProps}
      ref={own}
      $weight={weight}
      data-pressed={isPressed || undefined}
      data-busy={busy || undefined}
      data-disabled={props.isDisabled || undefined}
    >
      {children}
    </Styled>
  );
}
