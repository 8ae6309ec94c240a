"use client";
import styled from "styled-components";

/** A signature as it was made: the drawn path, or the typed name set in the serif's italic. */
export function SignatureMark({ name, path }: { readonly name: string; readonly path: string | undefined }) {
  if (!path) return <Typed>{name}</Typed>;
  return (
    <svg
      viewBox="0 0 600 200"
      width="240"
      height="80"
      role="img"
      aria-label={`Drawn signature of ${name}`}
      style={{ maxWidth: "100%" }}
    >
      <path d={path} fill="none" stroke="currentColor" strokeWidth="4" strokeLinecap="round" strokeLinejoin="round" />
    </svg>
  );
}
const Typed = styled.span`
  font: italic 500 1.6rem/1.3 var(--serif);
`;
