import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { DoorForm } from "./door-form";

export const metadata: Metadata = { title: "Door check" };
export default async function DoorPage() {
  const policy = await load(useCases.doorPolicy, {});
  const rights = await staffRights();
  return (
    <OfficePage rights={rights}>
      <DoorForm key={JSON.stringify(policy)} policy={policy} />
    </OfficePage>
  );
}
