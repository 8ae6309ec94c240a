import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { ImportPage } from "./import-page";

export const metadata: Metadata = { title: "Bring clients from a file" };
export default async function Page({ params }: { readonly params: Promise<{ readonly importId: string }> }) {
  return <ImportPage view={await load(useCases.importView, await params)} />;
}
