"use client";
import { useState } from "react";
import { Checkbox } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import type { VisitTypeLine } from "@/usecases/scheduling";
import { addVisitTypeAction, changeVisitTypeAction, retireVisitTypeAction } from "./actions";

const schema = async () => (await import("@/core/forms")).visitTypeSchema;
export interface VisitTypesViewProps {
  readonly types: readonly VisitTypeLine[];
  readonly requestId: string;
}
/** What people come for: how long it takes and where it is held. */
export function VisitTypesView({ types, requestId }: VisitTypesViewProps) {
  return (
    <>
      {types.length === 0 && (
        <MarginRow margin="None yet">
          <p>Say here what people come for: a first visit, a follow-up. Then visits can be made.</p>
        </MarginRow>
      )}
      {types.map((type) => (
        <MarginRow key={type.id} margin={`${type.minutes} minutes`}>
          <Stack $gap="0.4rem">
            <div>
              <strong>
                <bdi>{type.name}</bdi>
              </strong>{" "}
              <Soft>{type.remote ? "by phone or video" : type.room}</Soft>
            </div>
            <Cluster $gap="0.5rem 1.5rem">
              <details>
                <summary>Change {type.name}</summary>
                <ActionForm
                  action={changeVisitTypeAction}
                  schema={schema}
                  submit={`Save ${type.name}`}
                  weight="plain"
                  hidden={{ visitTypeId: type.id }}
                >
                  <TypeFields type={type} />
                </ActionForm>
              </details>
              <ActionForm
                action={retireVisitTypeAction}
                submit={`Offer ${type.name} no longer`}
                weight="quiet"
                hidden={{ visitTypeId: type.id }}
              />
            </Cluster>
          </Stack>
        </MarginRow>
      ))}
      <MarginRow margin="New kind">
        <ActionForm
          key={requestId}
          action={addVisitTypeAction}
          schema={schema}
          submit="Add kind of visit"
          weight={types.length === 0 ? "primary" : "plain"}
          hidden={{ requestId }}
        >
          <TypeFields />
        </ActionForm>
      </MarginRow>
    </>
  );
}
function TypeFields({ type }: { readonly type?: VisitTypeLine }) {
  const [remote, setRemote] = useState(type?.remote ?? false);
  return (
    <>
      <input type="hidden" name="remote" value={String(remote)} />
      <Fields $least="13rem">
        <TextField name="name" label="Name" defaultValue={type?.name ?? ""} />
        <TextField
          name="minutes"
          label="Minutes"
          defaultValue={String(type?.minutes ?? 50)}
          inputMode="numeric"
          dir="ltr"
        />
        {!remote && (
          <TextField
            name="room"
            label="Room"
            optional="(optional)"
            help="A room is never taken twice at a time."
            defaultValue={type?.room ?? ""}
          />
        )}
      </Fields>
      <Checkbox label="By phone or video" isSelected={remote} onChange={setRemote} />
    </>
  );
}
