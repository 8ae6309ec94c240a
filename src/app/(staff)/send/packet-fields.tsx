"use client";
import { sendingOf, type SendDraft, type SendOffer } from "@/core/packet";

/** What was decided about a packet, as the fields of a form. */
export function PacketFields({ offer, draft }: { readonly offer: SendOffer; readonly draft: SendDraft }) {
  const { questionnaireIds, prefillIds, leafletIds, people, signers } = sendingOf(offer, draft);
  const fields = [
    ...questionnaireIds.map((id) => ["questionnaireIds", id]),
    ...prefillIds.map((id) => ["prefillIds", id]),
    ...leafletIds.map((id) => ["leafletIds", id]),
    ...people.map(({ relationId, role }) => ["people", `${role} ${relationId}`]),
    ...signers.map((one) => ["signers", JSON.stringify(one)]),
    ["line", draft.line],
  ] as const;
  return fields.map(([name, value]) => <input key={`${name} ${value}`} type="hidden" name={name} value={value} />);
}
