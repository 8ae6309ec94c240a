"use client";
import { MarginRow, Page } from "@/ui/kit/page";

/** While everybody's scores are worked out. */
export function Counting() {
  return (
    <Page title="Caseload">
      <MarginRow margin="">
        <p role="status">Working out everybody’s scores…</p>
      </MarginRow>
    </Page>
  );
}
