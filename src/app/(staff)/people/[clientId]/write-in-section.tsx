"use client";
import { useState } from "react";
import type { ChartField } from "@/core/chart";
import { nthId } from "@/core/shared";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Fields, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import type { ChartView } from "@/usecases/charting";
import { writeInChartAction } from "./actions";

type Section = ChartView["sections"][number];
type Field = Section["fields"][number];
/** What staff write in a section by themselves: an entry like any other. */
export function WriteInSection({
  section,
  clientId,
  requestId,
  number,
}: {
  readonly section: Section;
  readonly clientId: string;
  readonly requestId: string;
  /** From which on the page's ids are this section's. */
  readonly number: number;
}) {
  const fields = section.fields.filter(({ field }) => !field.identity);
  const [key, setKey] = useState(fields[0]?.field.key ?? "");
  const chosen = fields.find(({ field }) => field.key === key);
  if (!chosen) return null;
  return (
    <Fold>
      <summary aria-label={`Write in ${section.title}`}>Write</summary>
      <Stack $gap="0.5rem">
        <Pick
          small
          label="Field"
          value={key}
          onChange={setKey}
          options={fields.map(({ field }) => ({ value: field.key, label: field.label }))}
        />
        <OneField
          key={key}
          chosen={chosen}
          hidden={{ clientId, requestId: nthId(requestId, number + fields.indexOf(chosen)), field: key }}
        />
      </Stack>
    </Fold>
  );
}
interface OneFieldProps {
  readonly chosen: Field;
  readonly hidden: Readonly<Record<string, string>>;
}
function OneField({ chosen, hidden }: OneFieldProps) {
  if ("rows" in chosen) return <OneRow chosen={chosen} hidden={hidden} />;
  const current = chosen.state?.current;
  return (
    <ActionForm
      action={writeInChartAction}
      submit="Write it in the chart"
      weight="plain"
      hidden={{ ...hidden, seen: String(current?.seq ?? 0) }}
    >
      <Value field={chosen.field} value={current?.value ?? ""} />
      <TextField name="reason" label="From where, or why" optional="optional" />
    </ActionForm>
  );
}
function Value({ field, value }: { readonly field: ChartField; readonly value: string }) {
  return (
    <TextField
      name="value"
      label={field.label}
      defaultValue={value}
      long={field.kind === "long-text"}
      {...(field.kind === "date" ? { help: "As YYYY-MM-DD." } : {})}
      {...(field.kind === "number" ? { inputMode: "decimal" as const } : {})}
    />
  );
}
function OneRow({
  chosen: { field, rows },
  hidden,
}: {
  readonly chosen: Extract<Field, { readonly rows: unknown }>;
  readonly hidden: OneFieldProps["hidden"];
}) {
  const [row, setRow] = useState("");
  if (field.kind !== "rows") return null;
  const standing = rows.flatMap((one) => (one.current ? [{ row: one.row, current: one.current }] : []));
  const there = standing.find((one) => one.row === row)?.current;
  const sent = { ...hidden, seen: String(there?.seq ?? 0), ...(row === "" ? {} : { row }) };
  return (
    <Stack $gap="0.5rem">
      {standing.length > 0 && (
        <Pick
          small
          label="Row"
          value={row}
          onChange={setRow}
          options={[
            { value: "", label: "a new one" },
            ...standing.map((one) => ({ value: one.row, label: one.current.value[field.matchOn] ?? "a row" })),
          ]}
        />
      )}
      <ActionForm key={row} action={writeInChartAction} submit="Write it in the chart" weight="plain" hidden={sent}>
        <Fields $least="9rem">
          {field.columns.map((column) => (
            <TextField
              key={column.key}
              name={`cell ${column.key}`}
              label={column.label}
              defaultValue={there?.value[column.key] ?? ""}
            />
          ))}
        </Fields>
        <TextField name="reason" label="From where, or why" optional="optional" />
      </ActionForm>
      {row !== "" && (
        <ActionForm
          action={writeInChartAction}
          submit="It ended"
          weight="quiet"
          hidden={{ ...sent, reason: "ended" }}
        />
      )}
    </Stack>
  );
}
