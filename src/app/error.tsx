"use client";
import styled from "styled-components";
import { buttonShape } from "@/ui/kit/button-shape";
import { Doorstep } from "@/ui/kit/doorstep";

/**
 * Comes with every page, so it is made of little and asks for nothing. Something failed that should not have. What was
 * saved before stays saved.
 */
export default function ErrorPage({ reset }: { readonly reset: () => void }) {
  return (
    <Doorstep>
      <h1>That did not work</h1>
      <p>Something went wrong on our side. What was saved before is safe; what you did last may not have been done.</p>
      <div>
        <Again type="button" $weight="primary" onClick={reset}>
          Try again
        </Again>
      </div>
    </Doorstep>
  );
}
const Again = styled.button<{ $weight: "primary" }>`
  ${buttonShape}
`;
