"use client";
import { useState } from "react";
import styled from "styled-components";
import { chartSectionTitles, ownFieldKinds, ownFieldSections, type ChartField, type OwnFieldKind } from "@/core/chart";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Cluster, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { addChartFieldAction, renameChartFieldAction, retireChartFieldAction } from "../actions";

const kindWords: Readonly<Record<OwnFieldKind, string>> = {
  text: "A short text",
  "long-text": "A long text",
  number: "A number",
  date: "A date",
  "yes-no": "Yes or no",
  rows: "A list with columns",
};
export interface ChartFieldsProps {
  readonly requestId: string;
  readonly fields: readonly { readonly field: ChartField; readonly retired: boolean }[];
}
/** Chart fields of the practice's own, for what the built-in ones have no place for. */
export function ChartFields({ fields, requestId }: ChartFieldsProps) {
  return (
    <>
      {fields.length === 0 && (
        <MarginRow margin="None yet">
          <p>
            The chart has a place for what most practices ask. Add one here for what only you ask; then any question can
            post to it.
          </p>
        </MarginRow>
      )}
      {fields.map(({ field, retired }) => (
        <MarginRow
          key={field.key}
          margin={
            <>
              {chartSectionTitles[field.section]}
              {retired ? (
                <>
                  <br />
                  retired
                </>
              ) : null}
            </>
          }
        >
          <Stack $gap="0.4rem">
            <div>
              <strong>{field.label}</strong>{" "}
              <Soft>
                {kindWords[field.kind as OwnFieldKind]}
                {field.kind === "rows" ? `: ${field.columns.map((c) => c.label).join(", ")}` : ""}
              </Soft>
            </div>
            <Cluster $gap="0.5rem 1.5rem">
              <details>
                <summary>Rename</summary>
                <ActionForm
                  action={renameChartFieldAction}
                  schema={async () => (await import("@/core/chart")).fieldLabelSchema}
                  submit="Save"
                  weight="plain"
                  hidden={{ key: field.key }}
                >
                  <TextField name="label" label={`New name of ${field.label}`} defaultValue={field.label} />
                </ActionForm>
              </details>
              <ActionForm
                action={retireChartFieldAction}
                submit={retired ? `Offer ${field.label} again` : `Retire ${field.label}`}
                weight="quiet"
                hidden={{ key: field.key, retired: String(!retired) }}
              />
            </Cluster>
          </Stack>
        </MarginRow>
      ))}
      <MarginRow margin="New field">
        <ActionForm
          key={requestId}
          action={addChartFieldAction}
          schema={async () => (await import("@/core/chart")).newFieldSchema}
          submit="Add chart field"
          weight="plain"
          hidden={{ requestId }}
        >
          <NewField />
        </ActionForm>
      </MarginRow>
    </>
  );
}

function NewField() {
  const [kind, setKind] = useState("text");
  const [section, setSection] = useState("health");
  return (
    <Stack $gap="1rem">
      <Three>
        <TextField name="label" label="Name" />
        <div>
          <Pick
            label="Kind"
            value={kind}
            options={ownFieldKinds.map((k) => ({ value: k, label: kindWords[k] }))}
            onChange={setKind}
          />
          <input type="hidden" name="kind" value={kind} />
        </div>
        <div>
          <Pick
            label="Section"
            value={section}
            options={ownFieldSections.map((s) => ({ value: s, label: chartSectionTitles[s] }))}
            onChange={setSection}
          />
          <input type="hidden" name="section" value={section} />
        </div>
      </Three>
      {kind === "rows" && (
        <TextField
          name="columns"
          label="Columns"
          long
          help="One a line. Two rows are the same thing when their first columns are."
        />
      )}
    </Stack>
  );
}
const Three = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr);
  gap: 1rem;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
