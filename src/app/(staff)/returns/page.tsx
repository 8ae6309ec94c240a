import type { Metadata } from "next";
import { isInstant } from "@/core/shared";
import { useCases } from "@/server";
import { load } from "../../_server/run";
import { ReturnsView } from "./returns-view";

export const metadata: Metadata = { title: "Returns" };
interface Props {
  readonly searchParams: Promise<{ readonly before?: string | string[] }>;
}
export default async function ReturnsPage({ searchParams }: Props) {
  const { before } = await searchParams;
  const asked = typeof before === "string" && isInstant(before) ? { before } : {};
  const { waiting, sealing } = await load(useCases.countToSign, {});
  return <ReturnsView {...await load(useCases.returns, asked)} toSign={waiting} sealing={sealing} />;
}
