import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { WordingsView } from "./wordings-view";

export const metadata: Metadata = { title: "Wordings" };
export default async function WordingsPage() {
  return <WordingsView wordings={await load(useCases.wordings, {})} />;
}
