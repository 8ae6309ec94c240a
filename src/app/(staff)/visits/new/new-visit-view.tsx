"use client";
import { useState } from "react";
import { dateWords } from "@/core/questionnaire";
import { ActionForm } from "@/ui/kit/form";
import { useProblem } from "@/ui/kit/field-problems";
import { Link } from "@/ui/kit/link";
import { Fields, MarginRow, Page } from "@/ui/kit/page";
import { LookUp, Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { useTimeFrame } from "@/ui/kit/time";
import type { Id } from "@/core/shared";
import type { VisitChoices } from "@/usecases/scheduling";
import { NewClient } from "../../send/new-client";
import { bookVisitAction } from "../actions";
import { VisitTime } from "../visit-time";

export interface NewVisitViewProps {
  readonly choices: VisitChoices;
  readonly requestId: string;
  /** For somebody who is not here yet. */
  readonly newClientId: string;
  readonly day: string;
  readonly clientId: Id<"Client"> | undefined;
}
export function NewVisitView({ choices, requestId, newClientId, day, clientId }: NewVisitViewProps) {
  const ready = choices.types.length > 0;
  return (
    <Page title="Make a visit">
      {ready ? (
        <MarginRow margin="Visit">
          <VisitForm choices={choices} requestId={requestId} day={day} clientId={clientId} />
        </MarginRow>
      ) : (
        <MarginRow margin="First">
          <p>
            Say what people come for: <Link href="/office/visit-types">Kinds of visit</Link>, in Office.
          </p>
        </MarginRow>
      )}
      {ready && clientId === undefined && (
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
type VisitFormProps = Omit<NewVisitViewProps, "newClientId">;
function VisitForm({ choices, requestId, day, clientId: known }: VisitFormProps) {
  const { locale } = useTimeFrame();
  const { clients, practitioners, types } = choices;
  const [clientId, setClientId] = useState<string>(known ?? "");
  const [staffId, setStaffId] = useState<string>(choices.ownId ?? "");
  const [visitTypeId, setVisitTypeId] = useState<string>(types[0]!.id);
  const type = types.find(({ id }) => id === visitTypeId)!;
  return (
    <ActionForm
      action={bookVisitAction}
      schema={async () => (await import("@/core/forms")).newVisitSchema}
      submit="Make visit"
      hidden={{ requestId, clientId, staffId, visitTypeId }}
    >
      <Fields $least="13rem">
        <ClientField
          value={clientId}
          onChange={setClientId}
          options={clients.map(({ id, name, birthDate }) => ({
            value: id,
            label: birthDate ? `${name}, ${dateWords(birthDate, locale)}` : name,
          }))}
        />
        <WithField
          value={staffId}
          onChange={setStaffId}
          options={practitioners.map(({ id, name }) => ({ value: id, label: name }))}
        />
        <Pick
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
    <Pick label="With" value={value} placeholder="Choose" problem={problem} options={options} onChange={onChange} />
  );
}
interface ChoiceFieldProps {
  readonly value: string;
  readonly onChange: (id: string) => void;
  readonly options: readonly { readonly value: string; readonly label: string }[];
}
function ClientField({ value, onChange, options }: ChoiceFieldProps) {
  return (
    <LookUp
      label="Client"
      value={value}
      options={options}
      onChange={onChange}
      problem={useProblem(undefined, "clientId")}
    />
  );
}
