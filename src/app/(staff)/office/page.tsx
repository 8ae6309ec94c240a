import type { Metadata } from "next";
import { useCases } from "@/server";
import { countryOptions } from "@/i18n/countries";
import { load, staff, staffRights } from "../../_server/run";
import { OfficePage } from "./office-page";
import { PracticeFacts } from "./practice-facts";
import { OwnAccount } from "./own-account";
import { SignInView } from "./sign-in-view";

export const metadata: Metadata = { title: "Office" };
export default async function Office() {
  const { singleKeys } = await staff();
  const rights = await staffRights();
  const { on } = await load(useCases.secondFactorState, {});
  const facts = await load(useCases.practiceFacts, {});
  const defaults = rights.includes("office.write") ? await load(useCases.practiceDefaults, {}) : undefined;
  return (
    <OfficePage rights={rights}>
      <PracticeFacts
        key={JSON.stringify([facts, defaults])}
        facts={facts}
        defaults={defaults}
        countries={defaults ? countryOptions() : []}
      />
      <OwnAccount sessions={await load(useCases.ownSessions, {})} />
      <SignInView secondFactor={on} singleKeys={singleKeys !== false} />
    </OfficePage>
  );
}
