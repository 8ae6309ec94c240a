"use client";
import { useState } from "react";
import styled from "styled-components";
import type { Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { Cluster } from "@/ui/kit/page";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import { useEndsSoon } from "@/ui/kit/use-ends-soon";
import { stayAction } from "./actions";

/** Said ten minutes before one is signed out, wherever one is, with the way to stay. */
export function SessionEnd({ until: first }: { readonly until: Instant | undefined }) {
  const { now } = useTimeFrame();
  const [stayed, setStayed] = useState<Instant>();
  const until = stayed ?? first;
  const soon = useEndsSoon(until, now);
  if (!soon || !until) return null;
  return (
    <Corner>
      <Notice tone="attention">
        <Cluster>
          <span>
            You will be signed out at <Moment at={until} as="clock" />.
          </span>
          <Button onPress={() => void stayAction().then(setStayed)}>Stay signed in</Button>
        </Cluster>
      </Notice>
    </Corner>
  );
}
const Corner = styled.div`
  position: fixed;
  inset-block-start: 0.75rem;
  inset-inline-end: 1rem;
  z-index: 6;
  max-width: min(30rem, 90vw);
`;
