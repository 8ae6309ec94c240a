"use client";
import { ActionForm } from "@/ui/kit/form";
import { beginNoteAction } from "../../notes/actions";
import type { ReturnViewProps } from "./return-view";

/** A note begun with what was answered: laid out, with nothing to choose first. */
export function DraftNote({ view, requestId }: ReturnViewProps) {
  return (
    <div id="draft" style={{ paddingBlockStart: "0.6rem" }}>
      <ActionForm
        action={beginNoteAction}
        inPage
        submit="Draft note"
        weight="plain"
        hidden={{ packetId: view.packetId, requestId }}
      />
    </div>
  );
}
