"use client";
import styled from "styled-components";
import type { SignatureMark as Mark } from "@/core/signing";

/** A signature as it was made: drawn, a picture of one, or the name set in the serif's italic. */
export function SignatureMark({ mark }: { readonly mark: Mark }) {
  const { name } = mark;
  switch (mark.kind) {
    case "drawn":
      return (
        <svg
          viewBox="0 0 600 200"
          width="240"
          height="80"
          role="img"
          aria-label={`Drawn signature of ${name}`}
          style={{ maxWidth: "100%" }}
        >
          <path
            d={mark.path}
            fill="none"
            stroke="currentColor"
            strokeWidth="4"
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        </svg>
      );
    case "picture":
      return <Picture src={`data:image/png;base64,${mark.png}`} alt={`Signature of ${name}`} />;
    case "paper":
      return <span>on paper</span>;
    case "typed":
    case "ticked":
      return <Typed>{name}</Typed>;
  }
}
const Typed = styled.span`
  font: italic 500 1.6rem/1.3 var(--serif);
`;
/** Its ink is dark and its ground clear, so it stands on white whatever the page's colours are. */
const Picture = styled.img`
  max-inline-size: 15rem;
  max-block-size: 4rem;
  object-fit: contain;
  background: #fff;
`;
