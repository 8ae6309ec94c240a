import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { MeasuresForm } from "./measures-form";

export const metadata: Metadata = { title: "Measures and alerts" };
export default async function MeasuresOffice() {
  const policy = await load(useCases.measurePolicy, {});
  return (
    <OfficePage rights={await staffRights()}>
      <MeasuresForm key={JSON.stringify(policy)} policy={policy} />
    </OfficePage>
  );
}
