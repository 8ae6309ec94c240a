import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { StandingView } from "./standing-view";

export const metadata: Metadata = { title: "Standing packets" };
export default async function StandingPage() {
  return (
    <StandingView
      packets={await load(useCases.standingPackets, {})}
      leaflets={await load(useCases.leaflets, {})}
      newId={randomUUID()}
    />
  );
}
