import type { Metadata } from "next";
import { application, useCases } from "@/server";
import { load, staff } from "../../_server/run";
import { OfficePage } from "./office-page";
import { PracticeFacts } from "./practice-facts";
import { SignInView } from "./sign-in-view";

export const metadata: Metadata = { title: "Office" };
export default async function Office() {
  const { role } = await staff();
  const { on } = await load(useCases.secondFactorState, {});
  const { name, email, zone, locale } = (await (await application()).practice())!;
  return (
    <OfficePage role={role}>
      <PracticeFacts name={name} email={email} zone={zone} locale={locale} />
      <SignInView secondFactor={on} />
    </OfficePage>
  );
}
