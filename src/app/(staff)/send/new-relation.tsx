"use client";
import { useState } from "react";
import { relationKinds } from "@/core/forms";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Fields } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { addRelationAction, type RelationState } from "./actions";

export interface NewRelationProps {
  readonly clientId: string;
  readonly requestId: string;
  /** Once they are on file. */
  readonly onAdded?: (relationId: string) => void;
}
/** Somebody around a client who is not on file yet: a name, who they are, and one way to reach them. */
export function NewRelation({ clientId, requestId, onAdded }: NewRelationProps) {
  const [kind, setKind] = useState<string>("partner");
  return (
    <details>
      <summary>Add a relation</summary>
      <ActionForm
        action={async (before, sent) => {
          const answer: RelationState = await addRelationAction(before, sent);
          if (answer.added !== undefined) onAdded?.(answer.added);
          return answer;
        }}
        schema={async () => (await import("@/core/forms")).newRelationSchema}
        submit="Add"
        weight="plain"
        hidden={{ requestId, clientId, kind }}
      >
        <Fields>
          <TextField name="firstName" label="First name" />
          <TextField name="lastName" label="Last name" optional="(optional)" />
          <Pick
            label="Relation to the client"
            value={kind}
            options={relationKinds.map((k) => ({ value: k, label: k }))}
            onChange={setKind}
          />
          <TextField name="email" label="E-mail" type="email" dir="ltr" />
          <TextField name="phone" label="Phone" type="tel" dir="ltr" />
        </Fields>
      </ActionForm>
    </details>
  );
}
