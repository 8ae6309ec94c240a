import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { PagesForm } from "./pages-form";

export const metadata: Metadata = { title: "Clients’ pages" };
export default async function PagesPage() {
  const policy = await load(useCases.pagePolicy, {});
  const rights = await staffRights();
  return (
    <OfficePage rights={rights}>
      <PagesForm
        key={JSON.stringify(policy)}
        policy={policy}
        languages={(await load(useCases.practiceDefaults, {})).languages}
      />
    </OfficePage>
  );
}
