"use client";
import { useState } from "react";
import { newRelationSchema, relationKinds } from "@/core/forms";
import { TextField } from "@/ui/fields";
import { ActionForm } from "@/ui/form";
import { Fields } from "@/ui/page";
import { Pick } from "@/ui/pick";
import { addRelationAction } from "./actions";

/** Somebody around a client who is not on file yet: a name, who they are, and one way to reach them. */
export function NewRelation({ clientId, requestId }: { readonly clientId: string; readonly requestId: string }) {
  const [kind, setKind] = useState<string>("partner");
  return (
    <details>
      <summary>Somebody who is not here yet</summary>
      <ActionForm
        action={addRelationAction}
        schema={newRelationSchema}
        submit="Add them"
        weight="plain"
        hidden={{ requestId, clientId, kind }}
      >
        <Fields>
          <TextField name="firstName" label="First name" />
          <TextField name="lastName" label="Last name" optional="(if you know it)" />
          <Pick
            label="Who they are to the client"
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
