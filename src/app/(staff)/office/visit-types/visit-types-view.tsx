"use client";
import { useState } from "react";
import { Checkbox, CheckboxGroup } from "@/ui/kit/choice-fields";
import { Link } from "@/ui/kit/link";
import { ActionForm } from "@/ui/kit/form";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import type { VisitTypeLine, VisitTypes } from "@/usecases/scheduling";
import { addVisitTypeAction, changeVisitTypeAction, offerVisitTypeAction, retireVisitTypeAction } from "./actions";

const schema = async () => (await import("@/core/forms")).visitTypeSchema;
export interface VisitTypesViewProps extends VisitTypes {
  readonly requestId: string;
}
/** What people come for: how long it takes and where it is held. */
export function VisitTypesView({ types, retired, practitioners, requestId }: VisitTypesViewProps) {
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
              <Soft>
                {[
                  type.remote ? "by phone or video" : type.room,
                  practitioners
                    .filter(({ id }) => type.practitioners.includes(id))
                    .map(({ name }) => name)
                    .join(" and "),
                ]
                  .filter(Boolean)
                  .join(", ")}
              </Soft>
              {type.standing.length > 0 && (
                <>
                  {" "}
                  <Link href="/library/standing">{type.standing.join(", ")}</Link>
                </>
              )}
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
                  <TypeFields type={type} practitioners={practitioners} />
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
      {retired.length > 0 && (
        <MarginRow margin="No longer offered">
          <Stack $gap="0.4rem">
            {retired.map(({ id, name }) => (
              <Cluster key={id}>
                <bdi>{name}</bdi>
                <ActionForm
                  action={offerVisitTypeAction}
                  submit={`Offer ${name} again`}
                  weight="quiet"
                  hidden={{ visitTypeId: id }}
                />
              </Cluster>
            ))}
          </Stack>
        </MarginRow>
      )}
      <MarginRow margin="New kind">
        <ActionForm
          key={requestId}
          action={addVisitTypeAction}
          schema={schema}
          submit="Add kind of visit"
          weight={types.length === 0 ? "primary" : "plain"}
          hidden={{ requestId }}
        >
          <TypeFields practitioners={practitioners} />
        </ActionForm>
      </MarginRow>
    </>
  );
}
interface TypeFieldsProps extends Pick<VisitTypes, "practitioners"> {
  readonly type?: VisitTypeLine;
}
function TypeFields({ type, practitioners }: TypeFieldsProps) {
  const [holding, setHolding] = useState<string[]>([...(type?.practitioners ?? [])]);
  const [remote, setRemote] = useState(type?.remote ?? false);
  return (
    <>
      <input type="hidden" name="remote" value={String(remote)} />
      <input type="hidden" name="practitioners" value={holding.join(" ")} />
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
      {practitioners.length > 1 && (
        <CheckboxGroup
          label="Who holds them"
          help="Nobody ticked is everybody."
          options={practitioners.map(({ id, name }) => ({ value: id as string, label: name }))}
          value={holding}
          onChange={setHolding}
        />
      )}
    </>
  );
}
