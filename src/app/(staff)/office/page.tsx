import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { countryOptions } from "@/i18n/countries";
import { Notice } from "@/ui/kit/notice";
import { load, staff, staffRights } from "../../_server/run";
import { OfficePage } from "./office-page";
import { Warnings } from "../safekeeping";
import { PracticeFacts } from "./practice-facts";
import { OwnAccount } from "./own-account";
import { SignInView } from "./sign-in-view";

export const metadata: Metadata = { title: "Office" };
export default async function Office() {
  const { singleKeys } = await staff();
  const rights = await staffRights();
  const factor = await load(useCases.secondFactorState, {});
  const facts = await load(useCases.practiceFacts, {});
  const defaults = rights.includes("office.write") ? await load(useCases.practiceDefaults, {}) : undefined;
  const warnings = rights.includes("staff.manage") ? (await load(useCases.safekeeping, {})).warnings : [];
  return (
    <OfficePage rights={rights}>
      {factor.required && !factor.on && (
        <Notice tone="attention">
          This practice asks everybody for a second factor. Set one up below; then everything else opens.
        </Notice>
      )}
      <Warnings warnings={warnings} />
      <PracticeFacts
        key={JSON.stringify([facts, defaults])}
        facts={facts}
        defaults={defaults}
        countries={defaults ? countryOptions() : []}
        requestId={randomUUID()}
      />
      <OwnAccount sessions={await load(useCases.ownSessions, {})} />
      <SignInView factor={factor} singleKeys={singleKeys !== false} />
    </OfficePage>
  );
}
