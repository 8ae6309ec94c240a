"use client";
import { useEffect } from "react";
import styled from "styled-components";
import { buttonShape } from "@/ui/kit/button-shape";
import { Doorstep } from "@/ui/kit/doorstep";

/** In ms: how soon a page that the database did not answer asks again. */
const againAfter = 3_000;
export interface ErrorPageProps {
  readonly error: Error & { readonly digest?: string };
}
/**
 * Comes with every page, so it is made of little and asks for nothing. Something failed that should not have. What was
 * saved before stays saved.
 */
export default function ErrorPage({ error }: ErrorPageProps) {
  const isBusy = error.digest === "busy";
  useEffect(() => {
    if (!isBusy) return;
    const timer = setTimeout(() => location.reload(), againAfter);
    return () => clearTimeout(timer);
  }, [isBusy]);
  return (
    <Doorstep>
      <h1>{isBusy ? "One moment" : "That did not work"}</h1>
      {isBusy ? (
        <p>The database does not answer just now. This page tries again by itself; what was saved is safe.</p>
      ) : (
        <p>
          Something went wrong on our side. What was saved before is safe; what you did last may not have been done.
        </p>
      )}
      <div>
        <Again type="button" $weight="primary" onClick={() => location.reload()}>
          Try again
        </Again>
      </div>
    </Doorstep>
  );
}
const Again = styled.button<{ $weight: "primary" }>`
  ${buttonShape}
`;
