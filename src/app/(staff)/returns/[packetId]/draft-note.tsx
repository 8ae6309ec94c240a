"use client";
import { useState } from "react";
import { Checkbox, RadioGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { draftAction } from "./actions";
import type { ReturnViewProps } from "./return-view";

/** A note begun with what was answered. */
export function DraftNote({ view, requestId }: ReturnViewProps) {
  const [pick, setPick] = useState("answered");
  const [keys, setKeys] = useState<readonly string[]>([]);
  const lines = view.parts.flatMap((part) => part.lines.filter((line) => line.answer !== ""));
  return (
    <div id="draft">
      <SectionTitle>Draft a note</SectionTitle>
      <ActionForm
        action={draftAction}
        inPage
        submit="Draft note"
        weight="plain"
        hidden={{ packetId: view.packetId, requestId }}
        disabled={pick === "chosen" && keys.length === 0}
      >
        <div>
          <MarginRow margin="Layout">
            <RadioGroup
              label="Note layout"
              name="layoutId"
              defaultValue={view.layouts[0]?.id ?? ""}
              options={view.layouts.map((layout) => ({ value: layout.id, label: layout.name }))}
              inline
            />
          </MarginRow>
          <MarginRow margin="Their words">
            <Stack>
              <RadioGroup
                label="Answers to quote"
                name="pick"
                value={pick}
                onChange={setPick}
                inline
                options={[
                  { value: "answered", label: "Answered ones" },
                  { value: "all", label: "All" },
                  { value: "chosen", label: "Chosen ones" },
                ]}
              />
              {pick === "chosen" && (
                <Stack $gap="0.4rem">
                  {lines.map((line) => {
                    const key = `${line.partId} ${line.key}`;
                    return (
                      <Checkbox
                        key={key}
                        isSelected={keys.includes(key)}
                        onChange={(on) => setKeys(on ? [...keys, key] : keys.filter((other) => other !== key))}
                        label={
                          <>
                            {line.question} <Soft dir="auto">{line.answer}</Soft>
                          </>
                        }
                      />
                    );
                  })}
                </Stack>
              )}
              {pick === "chosen" && keys.map((key) => <input key={key} type="hidden" name="keys" value={key} />)}
            </Stack>
          </MarginRow>
        </div>
      </ActionForm>
    </div>
  );
}
