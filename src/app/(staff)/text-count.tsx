"use client";
import { textParts } from "@/core/messages";
import { Soft } from "@/ui/kit/page";

/** How a text message travels, and which sign makes it costlier. */
export function TextCount({ text }: { readonly text: string }) {
  const { characters, parts, alphabet, costly } = textParts(text);
  return (
    <Soft role="status">
      {characters} characters, sent as {parts === 1 ? "one message" : `${parts} messages`}
      {alphabet === "UCS-2" && costly !== undefined ? (
        <>
          . The sign “<bdi>{costly}</bdi>” makes each hold 70 characters instead of 160
        </>
      ) : null}
      .
    </Soft>
  );
}
