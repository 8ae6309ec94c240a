"use client";
import { useState } from "react";
import { ActionForm } from "@/ui/kit/form";
import { useProblem } from "@/ui/kit/field-problems";
import { Link } from "@/ui/kit/link";
import { Fields, MarginRow, Page } from "@/ui/kit/page";
import { Pick as PickOne } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import type { Right } from "@/core/team";
import type { VisitChoices } from "@/usecases/scheduling";
import { NewClient } from "../../send/new-client";
import { LookUpPerson, type LookUpPersonProps } from "../../look-up-person";
import { bookVisitAction } from "../actions";
import { VisitTime } from "../visit-time";

export interface NewVisitViewProps {
  readonly choices: VisitChoices;
  readonly requestId: string;
  /** For somebody who is not here yet. */
  readonly newClientId: string;
  readonly day: string;
  readonly may: readonly Right[];
}
export function NewVisitView({ choices, requestId, newClientId, day, may }: NewVisitViewProps) {
  const ready = choices.types.length > 0;
  return (
    <Page title="Make a visit">
      {ready ? (
        <MarginRow margin="Visit">
          <VisitForm choices={choices} requestId={requestId} day={day} />
        </MarginRow>
      ) : (
        <MarginRow margin="First">
          <p>
            Say what people come for: <Link href="/office/visit-types">Kinds of visit</Link>, in Office.
          </p>
        </MarginRow>
      )}
      {ready && choices.client === undefined && may.includes("people.write") && (
        <NewClient
          requestId={newClientId}
          hidden={{ visitOn: day }}
          hrefOf={(id) => `/visits/new?on=${day}&client=${id}`}
          weight="plain"
        />
      )}
    </Page>
  );
}
type VisitFormProps = Omit<NewVisitViewProps, "newClientId" | "may">;
function VisitForm({ choices, requestId, day }: VisitFormProps) {
  const { client, practitioners, types } = choices;
  const [clientId, setClientId] = useState<string>(client?.id ?? "");
  const [staffId, setStaffId] = useState<string>(choices.ownId ?? "");
  const [visitTypeId, setVisitTypeId] = useState<string>(types[0]!.id);
  const type = types.find(({ id }) => id === visitTypeId)!;
  // Whom a kind is not for is not offered for it; who was chosen before stays, to be told.
  const offered = practitioners.filter(
    ({ id }) => type.practitioners.length === 0 || type.practitioners.includes(id) || id === staffId,
  );
  return (
    <ActionForm
      action={bookVisitAction}
      schema={async () => (await import("@/core/forms")).newVisitSchema}
      submit="Make visit"
      hidden={{ requestId, clientId, staffId, visitTypeId }}
    >
      <Fields $least="13rem">
        <ClientField value={clientId} onChange={setClientId} known={client} />
        <WithField
          value={staffId}
          onChange={setStaffId}
          options={offered.map(({ id, name }) => ({ value: id, label: name }))}
        />
        <PickOne
          label="Kind of visit"
          value={visitTypeId}
          options={types.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setVisitTypeId}
        />
      </Fields>
      <VisitTime day={day} time="" minutes={type.minutes} room={type.remote ? undefined : type.room} />
      <details>
        <summary>Repeat</summary>
        <Fields $least="9rem">
          <TextField name="count" label="How many in all" defaultValue="1" inputMode="numeric" dir="ltr" />
          <TextField name="weeks" label="Weeks apart" defaultValue="1" inputMode="numeric" dir="ltr" />
        </Fields>
      </details>
    </ActionForm>
  );
}
/** Its own part, as the form's problems are known only within it. */
function WithField({ value, onChange, options }: ChoiceFieldProps) {
  const problem = useProblem(undefined, "staffId");
  return (
    <PickOne label="With" value={value} placeholder="Choose" problem={problem} options={options} onChange={onChange} />
  );
}
interface ChoiceFieldProps {
  readonly value: string;
  readonly onChange: (id: string) => void;
  readonly options: readonly { readonly value: string; readonly label: string }[];
}
function ClientField(props: Pick<LookUpPersonProps, "value" | "onChange" | "known">) {
  return <LookUpPerson label="Client" {...props} problem={useProblem(undefined, "clientId")} />;
}
