"use client";
import type { MeasurePolicy } from "@/core/measures";
import { ActionForm } from "@/ui/kit/form";
import { MarginRow, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { saveMeasurePolicyAction } from "./actions";

/** When owners hear of an alert that stays open, and what is asked first on a call. */
export function MeasuresForm({ policy }: { readonly policy: MeasurePolicy }) {
  return (
    <MarginRow margin="How you work with measures">
      <ActionForm
        action={saveMeasurePolicyAction}
        schema={async () => (await import("@/core/forms")).measurePolicySchema}
        submit="Save"
        weight="plain"
      >
        <Stack>
          <TextField
            name="alertHours"
            label="Tell owners of an open alert after, hours"
            inputMode="numeric"
            defaultValue={String(policy.alertHours)}
            help="An alert is open until somebody writes what was done. The letter names nobody."
          />
          <TextField
            name="checklist"
            label="Asked at the start of a remote session"
            long
            defaultValue={policy.checklist.join("\n")}
            help="One line each. They stand on the visit's page, and what is ticked goes into the note."
          />
        </Stack>
      </ActionForm>
    </MarginRow>
  );
}
