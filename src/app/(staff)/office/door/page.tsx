import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staff } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { DoorForm } from "./door-form";

export const metadata: Metadata = { title: "Door check" };
export default async function DoorPage() {
  const policy = await load(useCases.doorPolicy, {});
  const { role } = await staff();
  return (
    <OfficePage role={role}>
      <DoorForm key={JSON.stringify(policy)} policy={policy} />
    </OfficePage>
  );
}
