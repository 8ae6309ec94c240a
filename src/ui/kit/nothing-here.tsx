"use client";
import { ButtonLink } from "./button";

/** What stands where an address leads nowhere. */
export function NothingHere() {
  return (
    <>
      <h1>Nothing here</h1>
      <p>This address leads nowhere, or to something that is not in your practice.</p>
      <div>
        <ButtonLink href="/day">To the Day sheet</ButtonLink>
      </div>
    </>
  );
}
