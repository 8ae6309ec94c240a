"use client";
import { useState } from "react";
import styled from "styled-components";
import { Button } from "@/ui/kit/button";
import { Spoken } from "@/ui/kit/page";
import type { Said } from "./use-outline";

/**
 * What was just done to the outline. Where it took something away it stays in sight with the way back, until something
 * else is done. @param now what is written; another one is something else.
 */
export function SaidStrip({
  said,
  now,
  undo,
}: {
  readonly said: Said;
  readonly now: object;
  readonly undo: () => void;
}) {
  const [about, setAbout] = useState({ said, now });
  if (about.said !== said) setAbout({ said, now });
  const isShown = said.words !== "" && said.quiet !== true && about.said === said && about.now === now;
  return (
    <>
      <Spoken role="status">{said.words}</Spoken>
      {isShown && (
        <Strip>
          <span aria-hidden="true">{said.words}</span>
          {said.undo && (
            <Button weight="quiet" onPress={undo}>
              Undo: bring it back
            </Button>
          )}
        </Strip>
      )}
    </>
  );
}
const Strip = styled.div`
  position: sticky;
  bottom: 0.5rem;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 1rem;
  align-items: baseline;
  margin-block: 0.4rem;
  padding: 0.4rem 0.9rem;
  background: var(--plum-wash);
  border-inline-start: 4px solid var(--plum);
  border-radius: var(--corner);
`;
