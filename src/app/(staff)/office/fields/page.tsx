import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staff } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { ChartFields } from "./chart-fields";

export const metadata: Metadata = { title: "Chart fields" };
export default async function FieldsPage() {
  const fields = await load(useCases.chartFields, {});
  const { role } = await staff();
  return (
    <OfficePage role={role}>
      <ChartFields fields={fields} requestId={randomUUID()} />
    </OfficePage>
  );
}
