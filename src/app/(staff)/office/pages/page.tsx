import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staff } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { PagesForm } from "./pages-form";

export const metadata: Metadata = { title: "Clients’ pages" };
export default async function PagesPage() {
  const policy = await load(useCases.pagePolicy, {});
  const { role } = await staff();
  return (
    <OfficePage role={role}>
      <PagesForm
        key={JSON.stringify(policy)}
        policy={policy}
        languages={(await load(useCases.practiceDefaults, {})).languages}
      />
    </OfficePage>
  );
}
