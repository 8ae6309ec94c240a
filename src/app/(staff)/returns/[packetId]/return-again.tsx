"use client";
import { useState } from "react";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Soft, Stack } from "@/ui/kit/page";
import { askAgainAction, sendBackAction } from "./actions";
import type { ReturnViewProps } from "./return-view";

/** The same questions as a new packet. */
export function AskAgain({ view, requestId }: ReturnViewProps) {
  return (
    <Fold>
      <summary>Ask again</summary>
      {view.reachable ? (
        <Stack $gap="0.6rem">
          <p>
            They get a new packet with the same questions. Intakes and worksheets begin with these answers, to be said
            right or changed; measures and consents are asked anew. What is here stays as it is.
          </p>
          <ActionForm
            action={askAgainAction}
            submit="Send again"
            weight="plain"
            hidden={{ packetId: view.packetId, requestId }}
          />
        </Stack>
      ) : (
        <p>
          There is no way to reach them, so nothing can be sent.{" "}
          <Link href={`/people/${view.clientId}/send`}>Make it from the chart</Link>, where a contact can be added or a
          device handed over.
        </p>
      )}
    </Fold>
  );
}

/** Some answers go back to the client, each with a reason. */
export function SendBack({ view, requestId }: ReturnViewProps) {
  const [keys, setKeys] = useState<readonly string[]>([]);
  const lines = view.parts.flatMap((part) =>
    part.lines.filter((line) => !part.scores.some((score) => score.linkId === line.key)),
  );
  return (
    <Fold>
      <summary>Send back</summary>
      <ActionForm
        action={sendBackAction}
        submit={`Send ${keys.length === 1 ? "this one" : `these ${keys.length}`} back`}
        weight="plain"
        disabled={keys.length === 0}
        hidden={{ packetId: view.packetId, requestId }}
      >
        <Stack $gap="0.4rem">
          <p>
            {view.reachable
              ? "They get a fresh link."
              : "There is no way to reach them, so no letter goes out: hand a device over from the packet’s page, which comes next."}{" "}
            Only what you tick is open again; the rest stays as it is.
          </p>
          {lines.map((line) => {
            const key = `${line.partId} ${line.key}`;
            const on = keys.includes(key);
            return (
              <Stack key={key} $gap="0.3rem">
                <Checkbox
                  isSelected={on}
                  onChange={(now) => setKeys(now ? [...keys, key] : keys.filter((other) => other !== key))}
                  label={
                    <>
                      {line.question} <Soft dir="auto">{line.answer || "not answered"}</Soft>
                    </>
                  }
                />
                {on && <TextField name={`why ${key}`} label={`What should they look at in “${line.question}”?`} />}
              </Stack>
            );
          })}
        </Stack>
      </ActionForm>
    </Fold>
  );
}
