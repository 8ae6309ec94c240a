"use client";
import { useState } from "react";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { ActionForm, type FormAction } from "@/ui/kit/form";
import { Cluster, Soft } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import type { NoteView } from "@/usecases/notes";
import { finishAction } from "./actions";

export interface FinishProps {
  readonly note: NoteView;
  readonly requestId: string;
  readonly revision: () => number;
  readonly flush: () => Promise<boolean>;
  /** Something was written below the line: it is meant to be shared. */
  readonly isWritten: () => boolean;
}
/** Signing a note off, and sharing what stands below the line. */
export function Finish({ note, requestId, revision, flush, isWritten }: FinishProps) {
  const [open, setOpen] = useState(false);
  const [cosignBy, setCosignBy] = useState("");
  /** What was typed last is kept first: it is what is signed. */
  const signOff: FormAction = async (before, form) => {
    if (!(await flush())) return { message: "What you typed last could not be kept yet, so nothing was signed off." };
    form.set("revision", String(revision()));
    return finishAction(before, form);
  };
  const mayShare = note.maySend && note.reach !== undefined;
  const [share, setShare] = useState(false);
  if (!open)
    return (
      <Button
        weight="primary"
        onPress={() =>
          void flush().then((kept) => {
            if (!kept) return;
            setShare(mayShare && isWritten());
            setOpen(true);
          })
        }
      >
        Finish
      </Button>
    );
  return (
    <div role="group" aria-label="Finish this note" style={{ flexBasis: "100%" }}>
      <ActionForm
        action={signOff}
        submit="Sign off"
        hidden={{ noteId: note.id, requestId, cosignBy, ...(share ? { share: "yes" } : {}) }}
      >
        <Cluster $gap="0.3rem 1.5rem">
          <Checkbox
            isSelected={share}
            onChange={setShare}
            isDisabled={!mayShare}
            label={
              mayShare
                ? `Share the take-home: a letter goes to ${note.reach}, and a code opens it`
                : "The take-home cannot be shared: they cannot be reached, or your role does not allow it"
            }
          />
          {note.colleagues.length > 0 && (
            <Pick
              small
              label="Signed beside by"
              value={cosignBy}
              placeholder="nobody else"
              options={[
                { value: "", label: "nobody else" },
                ...note.colleagues.map(({ id, name }) => ({ value: id, label: name })),
              ]}
              onChange={(id) => setCosignBy(String(id))}
            />
          )}
          <Button weight="quiet" onPress={() => setOpen(false)}>
            Write on
          </Button>
        </Cluster>
        <Soft as="p">From then on nobody writes in it; what comes later is added below, with its day.</Soft>
      </ActionForm>
    </div>
  );
}
