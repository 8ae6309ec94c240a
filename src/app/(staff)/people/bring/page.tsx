import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { BringView } from "./bring-view";

export const metadata: Metadata = { title: "Bring clients from a file" };
export default async function BringPage() {
  return <BringView requestId={randomUUID()} earlier={await load(useCases.ownImports, {})} importId={randomUUID()} />;
}
