"use client";
import { useEffect, useState } from "react";
import { journalFaultWords } from "@/core/audit";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { Soft, Stack } from "@/ui/kit/page";
import { Progress } from "@/ui/kit/progress";
import { Moment } from "@/ui/kit/time";
import type { JournalProgress, JournalView } from "@/usecases/audit";
import { checkJournalAction } from "../actions";

/** Walks the chain a piece at a time, from where it was walked last; all of it when asked. */
export function ChainCheck({ checked, kept, head }: Pick<JournalView, "checked" | "kept" | "head">) {
  const [now, setNow] = useState<JournalProgress>();
  const [stopped, setStopped] = useState(false);
  /** How often it was asked for; from the second time on, all of it. */
  const [round, setRound] = useState(1);
  useEffect(() => {
    let isLeft = false;
    void (async () => {
      let at = round === 1 ? undefined : 0;
      for (;;) {
        const step = await checkJournalAction(at).catch(() => undefined);
        if (isLeft) return;
        setStopped(!step);
        if (!step) return;
        setNow(step);
        if (step.done) return;
        at = step.seq;
      }
    })();
    return () => {
      isLeft = true;
    };
  }, [round]);
  const again = (): void => {
    setNow(undefined);
    setStopped(false);
    setRound((count) => count + 1);
  };
  const all = now?.head ?? head;
  const seq = now?.seq ?? (round === 1 ? (checked?.seq ?? 0) : 0);
  const over = now?.done === true;
  return (
    <Stack $gap="0.6rem">
      {now?.broken ? (
        <Notice tone="problem">
          <strong>Broken at row {now.broken.seq}:</strong> {journalFaultWords[now.broken.fault]}. Somebody changed the
          database outside the app. Keep it as it is, and the file with the kept heads, and ask who looks after it.
        </Notice>
      ) : (
        <Notice tone={over ? "settled" : "plain"}>
          {over ? (
            <>
              <strong>Unbroken.</strong> Every row follows on the one before it and was written by this app, from the
              first to row {seq}.
            </>
          ) : (
            <>
              {stopped ? "Checking stopped" : "Checking"}: row {seq} of {all}.
            </>
          )}
        </Notice>
      )}
      {!over && <Progress label="Rows checked" done={seq} all={all} />}
      <Soft>
        {kept ? (
          <>
            Kept outside the database: row {kept.seq}, <Moment at={kept.at} />.
          </>
        ) : (
          <>Nothing is kept outside the database yet.</>
        )}
        {checked && (
          <>
            {" "}
            Checked before up to row {checked.seq}, <Moment at={checked.at} />; only what came after is looked at again.
          </>
        )}
      </Soft>
      {(over || stopped) && (
        <div>
          <Button onPress={again}>Check all from the first row</Button>
        </div>
      )}
    </Stack>
  );
}
