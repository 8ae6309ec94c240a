import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { ChartLayoutForm } from "./chart-layout";
import { ChartFields } from "./chart-fields";

export const metadata: Metadata = { title: "Chart fields" };
export default async function FieldsPage() {
  const fields = await load(useCases.chartFields, {});
  const rights = await staffRights();
  return (
    <OfficePage rights={rights}>
      {rights.includes("office.write") && <ChartLayoutForm layout={await load(useCases.chartLayout, {})} />}
      <ChartFields fields={fields} requestId={randomUUID()} />
    </OfficePage>
  );
}
