"use client";
import type { SendDraft } from "@/core/packet";
import { DateField } from "@/ui/kit/date-field";
import { useTimeFrame } from "@/ui/kit/time";

export interface SendDatesProps {
  readonly draft: SendDraft;
  readonly set: (part: Partial<Pick<SendDraft, "expiresOn" | "dueOn">>) => void;
}
/** Until when a packet's page is open, and by when it should be back. */
export function SendDates({ draft, set }: SendDatesProps) {
  const { locale } = useTimeFrame();
  return (
    <>
      <DateField
        label="Open until"
        value={draft.expiresOn}
        onChange={(expiresOn) => set({ expiresOn })}
        locale={locale}
      />
      <DateField
        label="Wanted by"
        optional="(if you like)"
        value={draft.dueOn}
        onChange={(dueOn) => set({ dueOn })}
        locale={locale}
      />
    </>
  );
}
