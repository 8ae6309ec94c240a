"use client";
import type { Questionnaire } from "@/core/questionnaire";

/** What a questionnaire says besides asking: of a consent, what is agreed to. */
export function Texts({ questionnaire }: { readonly questionnaire: Questionnaire }) {
  const items = questionnaire.items.flatMap((i) => (i.type === "group" ? i.items : [i]));
  return items.map((item) =>
    item.type === "display" && !item.signature ? (
      <p key={item.linkId} dir="auto" style={{ whiteSpace: "pre-wrap" }}>
        {item.text}
      </p>
    ) : null,
  );
}
