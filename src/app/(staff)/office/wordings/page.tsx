import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { WordingsView } from "./wordings-view";

export const metadata: Metadata = { title: "Letters and texts" };
export default async function WordingsPage() {
  return (
    <WordingsView
      wordings={await load(useCases.wordings, {})}
      visits={await load(useCases.visitsAhead, {})}
      rights={await staffRights()}
    />
  );
}
