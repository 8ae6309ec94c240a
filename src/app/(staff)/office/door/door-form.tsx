"use client";
import { useState } from "react";
import type { DoorPolicy, DoorWay } from "@/core/packet";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { doorWayWords } from "../../door-words";
import { saveDoorAction } from "../actions";

/** How clients prove that a page is theirs. */
export function DoorForm({ policy }: { readonly policy: DoorPolicy }) {
  const [way, setWay] = useState<DoorWay>(policy.way);
  const [ifMissing, setIfMissing] = useState(policy.ifMissing);
  const [details, setDetails] = useState(policy.details);
  const [others, setOthers] = useState(policy.others ?? false);
  const [atOnce, setAtOnce] = useState(policy.atOnce ?? false);
  return (
    <MarginRow margin="How clients prove that a page is theirs">
      <ActionForm
        action={saveDoorAction}
        submit="Save"
        weight="plain"
        hidden={{ way, ifMissing, details, others: String(others), atOnce: String(atOnce) }}
      >
        <Stack>
          <Fields $least="14rem">
            <Pick
              label="Door check"
              value={way}
              options={Object.entries(doorWayWords).map(([value, label]) => ({ value, label }))}
              onChange={(v) => setWay(v as DoorWay)}
            />
            <Pick
              label="Without such a contact"
              value={ifMissing}
              options={[
                { value: "read-out", label: doorWayWords["read-out"] },
                { value: "details", label: doorWayWords.details },
              ]}
              onChange={(v) => setIfMissing(v as DoorPolicy["ifMissing"])}
            />
            <Pick
              label="Details asked: birth date and"
              value={details}
              options={[
                { value: "last-name", label: "the last name" },
                { value: "postcode", label: "the postcode" },
              ]}
              onChange={(v) => setDetails(v as DoorPolicy["details"])}
            />
            <TextField
              name="hours"
              label="Open on that device, in hours"
              defaultValue={String(policy.hours)}
              inputMode="numeric"
              dir="ltr"
            />
          </Fields>
          <Checkbox
            isSelected={others}
            onChange={setOthers}
            label={
              <>
                One passed door opens the other packets of the same person on that device{" "}
                <Soft>for the same time; never one that stood open</Soft>
              </>
            }
          />
          <Checkbox
            isSelected={atOnce}
            onChange={setAtOnce}
            label={
              <>
                The code is sent as soon as the page is opened <Soft>without a press; opening it again sends none</Soft>
              </>
            }
          />
          {way === "none" && (
            <Notice tone="attention">
              <strong>Whoever has the link gets in.</strong> A link that went to the wrong person opens for them. Each
              such door is written in the journal.
            </Notice>
          )}
        </Stack>
      </ActionForm>
    </MarginRow>
  );
}
