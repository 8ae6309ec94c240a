"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { ActionForm, type FormState } from "@/ui/kit/form";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import type { SecondFactorState } from "@/usecases/identity";
import { addPasskeyAction, removePasskeyAction, startPasskeyAction } from "./actions";
import { OwnPassword, passwordSchema } from "./own-password";

export interface PasskeysProps {
  readonly keys: SecondFactorState["passkeys"];
  readonly onCodes: (codes: readonly string[]) => void;
}
/** Keys on one's devices, each to be taken off, and one more. */
export function Passkeys({ keys, onCodes }: PasskeysProps) {
  const router = useRouter();
  const [count, setCount] = useState(0);
  const add = async (_: FormState, sent: FormData): Promise<FormState> => {
    const offer = await startPasskeyAction();
    if (!offer.options) return { message: offer.message ?? "" };
    const { startRegistration } = await import("@simplewebauthn/browser");
    const response = await startRegistration({ optionsJSON: offer.options }).catch(() => undefined);
    if (!response) return { message: "This device made no passkey, or has one already. Nothing was changed." };
    const done = await addPasskeyAction(String(sent.get("name")), response);
    if (done.codes) onCodes(done.codes);
    else if (!done.message && !done.fields) {
      setCount(count + 1);
      router.refresh();
    }
    return done;
  };
  return (
    <>
      {keys.map((key) => (
        <details key={key.id}>
          <summary>
            Passkey on <bdi>{key.name}</bdi>, {key.usedAt ? "used " : "added "}
            <Moment at={key.usedAt ?? key.createdAt} />
          </summary>
          <ActionForm
            action={removePasskeyAction}
            schema={passwordSchema}
            submit={`Take ${key.name} off`}
            weight="danger"
            hidden={{ passkeyId: key.id }}
          >
            <OwnPassword />
          </ActionForm>
        </details>
      ))}
      <details key={`add ${count}`}>
        <summary>Add a passkey</summary>
        <ActionForm action={add} submit="Make a passkey" weight="plain">
          <TextField
            name="name"
            label="This device"
            help="Your fingerprint, face or PIN unlocks it. It never leaves the device."
            placeholder="Laptop in room 2"
          />
        </ActionForm>
      </details>
    </>
  );
}
