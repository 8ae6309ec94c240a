"use client";
import { useState } from "react";
import { roleWords } from "@/core/team";
import { roles, type Id, type Role } from "@/core/shared";
import { ActionForm } from "@/ui/kit/form";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import type { TeamLine } from "@/usecases/team";
import { changeColleagueAction, comeBackAction, inviteAction, inviteAgainAction, leaveAction } from "./actions";

const roleOptions = roles.map((role) => ({ value: role, label: roleWords[role] }));
const memberSchemas = {
  new: async () => (await import("@/core/forms")).newMemberSchema,
  known: async () => (await import("@/core/forms")).memberSchema,
};

export interface StaffViewProps {
  readonly lines: readonly TeamLine[];
  readonly ownId: Id<"Staff">;
  readonly requestId: string;
}
/** Everybody of the practice, and the way in and out. */
export function StaffView({ lines, ownId, requestId }: StaffViewProps) {
  return (
    <>
      {lines.map((line) => (
        <MarginRow key={line.id} margin={marginOf(line)}>
          <Stack $gap="0.4rem">
            <div>
              <strong>
                <bdi>{line.name}</bdi>
              </strong>{" "}
              <Soft>
                {[line.title, line.email, line.secondFactor ? "second factor" : ""].filter(Boolean).join(", ")}
              </Soft>
            </div>
            {line.state === "left" ? (
              <ActionForm
                action={comeBackAction}
                submit={`${line.name} comes back`}
                weight="quiet"
                hidden={{ staffId: line.id }}
              />
            ) : (
              <Cluster $gap="0.5rem 1.5rem">
                <details>
                  <summary>Change {line.name}</summary>
                  <Change line={line} />
                </details>
                {line.state === "invited" && (
                  <ActionForm
                    action={inviteAgainAction}
                    submit={`Invite ${line.name} again`}
                    weight="quiet"
                    hidden={{ staffId: line.id }}
                  />
                )}
                {line.id !== ownId && (
                  <details>
                    <summary>{line.name} leaves</summary>
                    <Leave line={line} lines={lines} />
                  </details>
                )}
              </Cluster>
            )}
          </Stack>
        </MarginRow>
      ))}
      <MarginRow margin="New colleague">
        <ActionForm
          key={requestId}
          action={inviteAction}
          schema={memberSchemas.new}
          submit="Invite"
          hidden={{ requestId }}
        >
          <MemberFields email />
          <Soft>A letter goes to this address, with a link to choose a password. It works once, for seven days.</Soft>
        </ActionForm>
      </MarginRow>
    </>
  );
}
function marginOf({ role, state }: TeamLine) {
  return (
    <>
      {roleWords[role]}
      {state === "invited" && (
        <>
          <br />
          invited
        </>
      )}
      {state === "left" && (
        <>
          <br />
          left
        </>
      )}
    </>
  );
}
interface MemberFieldsProps {
  readonly line?: TeamLine;
  readonly email?: boolean;
}
function MemberFields({ line, email = false }: MemberFieldsProps) {
  const [role, setRole] = useState<Role>(line?.role ?? "practitioner");
  return (
    <>
      <input type="hidden" name="role" value={role} />
      <Fields $least="13rem">
        <TextField name="name" label="Name" {...(line ? { defaultValue: line.name } : {})} />
        {email && <TextField name="email" type="email" label="E-mail" dir="ltr" defaultValue={line?.email ?? ""} />}
        <TextField
          name="title"
          label="Title"
          optional="(optional)"
          placeholder="Dietitian"
          {...(line ? { defaultValue: line.title } : {})}
        />
        <Pick label="Role" value={role} options={roleOptions} onChange={(chosen) => setRole(chosen as Role)} />
      </Fields>
    </>
  );
}
function Change({ line }: { readonly line: TeamLine }) {
  return (
    <ActionForm
      action={changeColleagueAction}
      schema={memberSchemas.known}
      submit={`Save ${line.name}`}
      weight="plain"
      hidden={{ staffId: line.id }}
    >
      <MemberFields line={line} email={line.state === "invited"} />
    </ActionForm>
  );
}
function Leave({ line, lines }: { readonly line: TeamLine; readonly lines: readonly TeamLine[] }) {
  const [toId, setToId] = useState("");
  const heirs = lines.filter(({ id, state }) => state === "here" && id !== line.id);
  const work = [
    [line.visitsAhead, "visit ahead", "visits ahead"],
    [line.openPackets, "packet under way", "packets under way"],
    [line.clients, "client", "clients"],
  ] as const;
  const left = work.filter(([count]) => count > 0).map(([count, one, many]) => `${count} ${count === 1 ? one : many}`);
  return (
    <ActionForm
      action={leaveAction}
      submit={`${line.name} has left`}
      weight="danger"
      hidden={{ staffId: line.id, toId }}
    >
      <p>
        {line.name} is signed out everywhere at once and cannot sign in again. What they wrote stays, under their name.
        {left.length > 0 && ` What is theirs goes to a colleague: ${left.join(", ")}.`}
      </p>
      {left.length > 0 && (
        <Pick
          label="Who takes it on"
          value={toId}
          placeholder="Choose"
          options={heirs.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setToId}
        />
      )}
    </ActionForm>
  );
}
