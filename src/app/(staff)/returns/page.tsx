import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../_server/run";
import { ReturnsView } from "./returns-view";

export const metadata: Metadata = { title: "Returns" };
export default async function ReturnsPage() {
  return <ReturnsView {...await load(useCases.returns, {})} />;
}
