"use client";
import { useState } from "react";
import { dateWords } from "@/core/questionnaire";
import type { Id } from "@/core/shared";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { Cluster, Fields, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { ReachView as ReachData } from "@/usecases/charting";
import {
  archiveClientAction,
  bringBackClientAction,
  changeIdentityAction,
  shareClientAction,
  unshareClientAction,
} from "./actions";
import { BirthDate } from "../../birth-date";
import { whyWords } from "../../../send/why-words";

/** Who they are, by name and birth date. */
export function Identity({ reach }: { readonly reach: ReachData }) {
  const { identity, clientId } = reach;
  const [birthDate, setBirthDate] = useState(identity.birthDate);
  return (
    <ActionForm
      action={changeIdentityAction}
      schema={async () => (await import("@/core/forms")).identitySchema}
      submit="Save name"
      weight="plain"
      hidden={{ clientId, birthDate, seen: identity.seen }}
    >
      <Fields $least="11rem">
        <TextField name="firstName" label="First name" defaultValue={identity.firstName} />
        <TextField name="lastName" label="Last name" optional="(optional)" defaultValue={identity.lastName} />
        <TextField
          name="preferredName"
          label="Likes to be called"
          optional="(optional)"
          defaultValue={identity.preferredName}
        />
        <BirthDate value={birthDate} onChange={setBirthDate} />
      </Fields>
    </ActionForm>
  );
}
/** Whose client this is, and who opened it besides. */
export function Whose({ reach }: { readonly reach: ReachData }) {
  const { clientId, careTeam } = reach;
  const [staffId, setStaffId] = useState("");
  return (
    <>
      <SectionTitle>Practitioners</SectionTitle>
      <MarginRow margin={careTeam.whose.length === 0 ? "Nobody’s yet" : "Whose client"}>
        <Stack $gap="0.5rem">
          {careTeam.whose.map((one) => (
            <Cluster key={one.id}>
              <bdi>{one.name}</bdi>
              <ActionForm
                action={unshareClientAction}
                submit={`Take ${one.name} off`}
                weight="quiet"
                hidden={{ clientId, staffId: one.id }}
              />
            </Cluster>
          ))}
          {careTeam.others.length > 0 && (
            <ActionForm
              key={careTeam.whose.length}
              action={shareClientAction}
              submit="Add practitioner"
              weight="plain"
              disabled={staffId === ""}
              hidden={{ clientId, staffId }}
            >
              <Pick
                label="Also a client of"
                value={staffId}
                placeholder="Choose"
                options={careTeam.others.map(({ id, name }) => ({ value: id, label: name }))}
                onChange={setStaffId}
              />
            </ActionForm>
          )}
        </Stack>
      </MarginRow>
      {careTeam.openings.map((opening) => (
        <MarginRow key={opening.at} margin={<Moment at={opening.at} />}>
          Opened by <bdi>{opening.name}</bdi>: <bdi>{opening.reason}</bdi>
        </MarginRow>
      ))}
    </>
  );
}

/** Their record as a whole: other records of the same person, and whether they still come. */
export function RecordState({ reach }: { readonly reach: ReachData }) {
  const { locale } = useTimeFrame();
  const { clientId, alike, merged, mayMerge, mayErase, mayTakeOut, archivedAt } = reach;
  const gone = merged.some((one) => one.gone);
  return (
    <>
      <SectionTitle>Record</SectionTitle>
      {merged.map((one) => (
        <MergedLine key={one.mergeId} clientId={clientId} record={one} />
      ))}
      {!gone && alike.length > 0 && (
        <MarginRow margin="Here twice?">
          <ul>
            {alike.map((one) => (
              <li key={one.id}>
                <Link href={`/people/${one.id}`}>
                  <bdi>{one.name}</bdi>
                </Link>
                {one.birthDate ? `, born ${dateWords(one.birthDate, locale)}` : ""}{" "}
                <Soft>{one.why.map((why) => whyWords[why]).join(", ")}</Soft>{" "}
                {mayMerge && <Link href={`/people/${clientId}/merge?with=${one.id}`}>Compare and merge</Link>}
              </li>
            ))}
          </ul>
        </MarginRow>
      )}
      {!gone && (
        <MarginRow margin={archivedAt === null ? "" : "Archived"}>
          <Cluster $gap="0.5rem 1.5rem">
            {archivedAt === null ? (
              <ActionForm action={archiveClientAction} submit="Archive" weight="plain" hidden={{ clientId }} />
            ) : (
              <ActionForm action={bringBackClientAction} submit="Bring back" weight="plain" hidden={{ clientId }} />
            )}
            {mayMerge && <Link href={`/people/${clientId}/merge`}>Merge with another record</Link>}
            {mayTakeOut && <Link href={`/people/${clientId}/everything`}>Take out everything about them</Link>}
            {mayErase && <Link href={`/people/${clientId}/erase`}>Erase or hold</Link>}
          </Cluster>
        </MarginRow>
      )}
    </>
  );
}
export interface MergedLineProps {
  readonly clientId: Id<"Client">;
  readonly record: ReachData["merged"][number];
}
/** That two records are one, and where the other is. */
export function MergedLine({ clientId, record }: MergedLineProps) {
  const { other, gone, at, by } = record;
  return (
    <MarginRow margin={<Moment at={at} />} tone={gone ? "attention" : "plain"}>
      {gone ? "Made one with " : "Holds the record of "}
      <Link href={`/people/${other.id}`}>
        <bdi>{other.name}</bdi>
      </Link>
      , by <bdi>{by}</bdi>.{" "}
      <Link href={`/people/${gone ? other.id : clientId}/merge?undo=${record.mergeId}`}>Undo the merge</Link>
    </MarginRow>
  );
}
