"use client";
import { Page } from "@/ui/kit/page";
import { NewClient } from "../../send/new-client";

/** Somebody new, to whom nothing goes yet. */
export function NewPersonView({ requestId }: { readonly requestId: string }) {
  return (
    <Page title="Add a client">
      <NewClient requestId={requestId} hidden={{ onward: "details" }} hrefOf={(id) => `/people/${id}`} />
    </Page>
  );
}
