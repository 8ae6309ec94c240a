import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { OfficePage } from "../office-page";
import { SignaturesView } from "./signatures-view";

export const metadata: Metadata = { title: "Signatures" };
export default async function SignaturesPage() {
  const signing = await load(useCases.signingOffice, {});
  return (
    <OfficePage rights={await staffRights()}>
      <SignaturesView signing={signing} />
    </OfficePage>
  );
}
