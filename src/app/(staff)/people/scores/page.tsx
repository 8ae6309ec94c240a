import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { BringScores } from "./bring-scores";

export const metadata: Metadata = { title: "Bring earlier scores" };
export default async function BringScoresPage() {
  return <BringScores choices={await load(useCases.scoreChoices, {})} requestId={randomUUID()} />;
}
