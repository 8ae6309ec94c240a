import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staff, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { RightsView } from "./rights-view";
import { StaffView } from "./staff-view";

export const metadata: Metadata = { title: "Staff" };
export default async function StaffPage() {
  const team = await load(useCases.team, {});
  return (
    <OfficePage rights={await staffRights()}>
      <StaffView lines={team.lines} ownId={(await staff()).id} requestId={randomUUID()} />
      <RightsView
        key={JSON.stringify([team.rights, team.secondFactorRequired])}
        rights={team.rights}
        secondFactorRequired={team.secondFactorRequired}
        mayChange={team.owner}
      />
    </OfficePage>
  );
}
