import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../_server/run";
import { LibraryView } from "./library-view";

export const metadata: Metadata = { title: "Library" };
export default async function LibraryPage() {
  return <LibraryView {...await load(useCases.library, {})} requestId={randomUUID()} />;
}
