import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { roleMay, useCases } from "@/server";
import { clientLanguages } from "@/i18n/languages";
import { currentStaff } from "../../_server/request";
import { load } from "../../_server/run";
import { OfficeView } from "./office-view";

export const metadata: Metadata = { title: "Office" };
export default async function OfficePage() {
  const actor = await currentStaff();
  const { on } = await load(useCases.secondFactorState, {});
  const journal =
    actor.kind === "staff" && roleMay(actor.role, "journal.read") ? await load(useCases.journalView, {}) : undefined;
  const fields =
    actor.kind === "staff" && roleMay(actor.role, "office.write")
      ? { fields: await load(useCases.chartFields, {}), requestId: randomUUID() }
      : undefined;
  const door = fields && (await load(useCases.doorPolicy, {}));
  const pages = fields && (await load(useCases.pagePolicy, {}));
  return (
    <OfficeView
      secondFactor={on}
      fields={fields}
      door={door}
      pages={pages}
      languages={clientLanguages}
      journal={
        journal && {
          rows: journal.rows.map(({ seq, at, actor: by, action, subject, address }) => ({
            seq,
            at,
            by: journal.people[by] ?? by.split(":")[0] ?? "",
            action,
            subject: subject.split(":")[0] ?? "",
            address,
          })),
          firstBroken: journal.firstBroken,
        }
      }
    />
  );
}
