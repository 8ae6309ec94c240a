import type { Metadata } from "next";
import { application, roleMay, useCases } from "@/server";
import { load, staff } from "../../_server/run";
import { OfficePage } from "./office-page";
import { PracticeFacts } from "./practice-facts";
import { SignInView } from "./sign-in-view";

export const metadata: Metadata = { title: "Office" };
export default async function Office() {
  const { role, singleKeys } = await staff();
  const { on } = await load(useCases.secondFactorState, {});
  const { name, email, locale } = (await (await application()).practice())!;
  const defaults = await load(useCases.practiceDefaults, {});
  return (
    <OfficePage role={role}>
      <PracticeFacts
        key={JSON.stringify(defaults)}
        name={name}
        email={email}
        locale={locale}
        defaults={defaults}
        mayChange={roleMay(role, "office.write")}
      />
      <SignInView secondFactor={on} singleKeys={singleKeys !== false} />
    </OfficePage>
  );
}
