"use client";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { instantMs, type Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { Cluster } from "@/ui/kit/page";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import { useEndsSoon } from "@/ui/kit/use-ends-soon";
import { stayAction } from "./actions";

async function askUntil(): Promise<Instant | undefined> {
  const response = await fetch("/api/session").catch(() => undefined);
  return response?.ok ? ((await response.json()) as { readonly until?: Instant }).until : undefined;
}
/** Said ten minutes before one is signed out, wherever one is, with the way to stay. */
export function SessionEnd({ until: first }: { readonly until: Instant | undefined }) {
  const { now } = useTimeFrame();
  const [later, setLater] = useState<Instant>();
  const [sure, setSure] = useState<Instant>();
  const until = later ?? first;
  const soon = useEndsSoon(until, now);
  useEffect(() => {
    if (!soon || !until) return;
    let isLeft = false;
    void askUntil().then((said) => {
      if (isLeft) return;
      // What was done since this page was made kept it open.
      if (said !== undefined && instantMs(said) - instantMs(until) > 60_000) setLater(said);
      else setSure(until);
    });
    return () => {
      isLeft = true;
    };
  }, [soon, until]);
  if (!soon || !until || sure !== until) return null;
  return (
    <Corner>
      <Notice tone="attention">
        <Cluster>
          <span>
            You will be signed out at <Moment at={until} as="clock" />.
          </span>
          <Button onPress={() => void stayAction().then(setLater)}>Stay signed in</Button>
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
