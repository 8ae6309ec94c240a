"use client";
import type { CopyRole } from "@/core/packet";
import { Checkbox } from "@/ui/kit/choice-fields";
import { Link } from "@/ui/kit/link";
import { Cluster, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { NewRelation } from "./new-relation";
import type { SendHowProps } from "./send-how";

/** Others who get a copy: each by a link and a door check of their own. */
export function SendWhom({ options, draft, step, requestId }: SendHowProps & { readonly requestId: string }) {
  return (
    <MarginRow margin="Recipients">
      <Stack $gap="0.35rem">
        {options.others.map((other) => {
          const id = other.relationId ?? "";
          const role = draft.people[id];
          return (
            <Cluster key={id} $gap="0.3rem 1rem">
              <Checkbox
                isSelected={role !== undefined}
                isDisabled={!other.masked}
                onChange={(on) => step({ do: "person", id, role: on ? "fills" : undefined })}
                label={
                  <>
                    <bdi>{other.name}</bdi>, {other.kind} <Soft>{other.masked ?? "cannot be reached"}</Soft>
                  </>
                }
              />
              {role && (
                <Pick
                  bare
                  small
                  label={`What ${other.name} does`}
                  value={role}
                  options={[
                    { value: "fills", label: "fills in" },
                    { value: "reads", label: "reads only" },
                  ]}
                  onChange={(next) => step({ do: "person", id, role: next as CopyRole })}
                />
              )}
            </Cluster>
          );
        })}
        <Soft>
          {options.others.length === 0 ? "Nobody else is on file for them. " : ""}Who is added fills in the same copy,
          by a link and a door check of their own.
        </Soft>
        <Cluster $gap="0.2rem 1.5rem">
          <NewRelation
            key={options.others.length}
            clientId={options.clientId}
            requestId={requestId}
            onAdded={(id) => step({ do: "person", id, role: "fills" })}
          />
          <Link href={`/people/${options.clientId}/reach`}>Contact details</Link>
        </Cluster>
      </Stack>
    </MarginRow>
  );
}
