import type { Metadata } from "next";
import { Suspense } from "react";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { waiting } from "../../../_server/waiting";
import { CaseloadView } from "./caseload-view";
import { Counting } from "./counting";

export const metadata: Metadata = { title: "Caseload" };
interface Asked {
  /** The score that is shown. */
  readonly of?: string;
  readonly order?: string;
  readonly from?: string;
}
async function Counted({ of, order, from }: Asked) {
  // The embedded database does one thing at a time: what the frame asks it comes first.
  await waiting();
  return (
    <CaseloadView
      caseload={await load(useCases.caseload, { of, order, from: from === undefined ? 0 : Number(from) })}
    />
  );
}
/** The page stands at once; the figures come when they are worked out. */
export default async function CaseloadPage({ searchParams }: { readonly searchParams: Promise<Asked> }) {
  const asked = await searchParams;
  return (
    <Suspense fallback={<Counting />} key={JSON.stringify(asked)}>
      <Counted {...asked} />
    </Suspense>
  );
}
