"use client";
import type { SendDraft, SendStep, StandingOffer } from "@/core/packet";
import { MarginRow } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";

export interface StandingPickProps {
  readonly standing: readonly (StandingOffer & { readonly title: string })[];
  readonly draft: SendDraft;
  readonly step: (step: SendStep) => void;
}
/** Begins with what is sent again and again. */
export function StandingPick({ standing, draft, step }: StandingPickProps) {
  if (standing.length === 0) return null;
  return (
    <MarginRow margin="Standing packet">
      <div style={{ maxInlineSize: "24rem" }}>
        <Pick
          bare
          label="Standing packet"
          value={draft.standing}
          placeholder="none, choose below"
          options={standing.map((one) => ({
            value: one.id,
            label: one.forThis ? `${one.title}, for this kind of visit` : one.title,
          }))}
          onChange={(id) => step({ do: "take", standing: id })}
        />
      </div>
    </MarginRow>
  );
}
