"use client";
import { useCallback, useEffect, useRef, useState, type ReactNode } from "react";
import styled from "styled-components";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { MarginRow } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { Desk } from "@/usecases/authoring";
import { deskAction, takeOverAction } from "./actions";
import type { DraftSaving } from "./draft-saving";

const every = 8000;
/** Names this page for as long as its window stands, through reloads. */
function pageName(id: string): string {
  const place = `kind-ledger desk ${id}`;
  try {
    const known = window.sessionStorage.getItem(place);
    if (known) return known;
    const fresh = crypto.randomUUID();
    window.sessionStorage.setItem(place, fresh);
    return fresh;
  } catch {
    return crypto.randomUUID();
  }
}
/** Who else has this draft open, and who of them writes. Undefined until it is known. */
function useDesk(id: string, flush: () => Promise<boolean>) {
  const [desk, setDesk] = useState<Desk>();
  const page = useRef<string>(undefined);
  const mine = useRef(true);
  const look = useCallback(async (): Promise<void> => {
    page.current ??= pageName(id);
    const found = await deskAction({ id, page: page.current }).catch(() => undefined);
    if (!found) return;
    // Taken over: what was typed last is kept first.
    if (mine.current && !found.mine) await flush();
    // Who wrote is gone: this page writes from now on, from what stands there now and not from what it was opened with.
    if (!mine.current && found.mine) {
      window.location.reload();
      return;
    }
    mine.current = found.mine;
    setDesk(found);
  }, [id, flush]);
  useEffect(() => {
    const first = setTimeout(() => void look());
    const timer = setInterval(() => void look(), every);
    const leave = (): void => {
      if (page.current) void deskAction({ id, page: page.current, leaving: true }).catch(() => undefined);
    };
    window.addEventListener("pagehide", leave);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [id, look]);
  const takeOver = async (): Promise<void> => {
    // Anew, from what the other saved last.
    if (page.current && (await takeOverAction({ id, page: page.current }))) window.location.reload();
  };
  return { desk, takeOver };
}

/**
 * Around what writes a draft: two people on one are told before either types; one writes, and the other looks until
 * they take over.
 */
export function DraftDesk({
  id,
  saving,
  children,
}: {
  readonly id: string;
  readonly saving: DraftSaving;
  readonly children: ReactNode;
}) {
  const { desk, takeOver } = useDesk(id, saving.flush);
  const writer = desk?.others.find((one) => one.writes);
  const looks = desk !== undefined && !desk.mine;
  const watchers = desk?.mine ? desk.others : [];
  return (
    <>
      {looks && (
        <MarginRow margin="You are looking" tone="attention">
          <Notice tone="attention">
            <strong>
              {writer === undefined && "Somebody is writing this."}
              {writer?.own && "You have this open in another window, and write there."}
              {writer && !writer.own && `${writer.name} is writing this.`}
            </strong>{" "}
            {writer && (
              <>
                Since <Moment at={writer.since} as="clock" />.{" "}
              </>
            )}
            You see it as it was when you opened it. Take over to write here: they are told, and look from then on.{" "}
            <Button onPress={() => void takeOver()}>Take over</Button>
          </Notice>
        </MarginRow>
      )}
      {watchers.length > 0 && (
        <MarginRow margin="Also here">
          <Notice>
            {watchers.map((one) => (one.own ? "you, in another window" : one.name)).join(", ")}{" "}
            {watchers.length === 1 && !watchers[0]!.own ? "is" : "are"} looking at this draft while you write.
          </Notice>
        </MarginRow>
      )}
      <Still inert={looks}>{children}</Still>
    </>
  );
}
const Still = styled.div`
  &[inert] {
    opacity: 0.72;
  }
`;
