"use client";
import type { ComponentProps } from "react";
import styled from "styled-components";
import { buttonShape, type Weight } from "./button-shape";
import { Link } from "./link";

const StyledLink = styled(Link)<{ $weight: Weight }>`
  ${buttonShape}
`;

export interface ButtonLinkProps extends Omit<ComponentProps<typeof Link>, "className" | "style"> {
  readonly weight?: Weight;
}
export function ButtonLink({ weight = "plain", ...props }: ButtonLinkProps) {
  return <StyledLink $weight={weight} {...props} />;
}
