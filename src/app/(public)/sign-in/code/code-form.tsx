"use client";
import { Fold } from "@/ui/kit/ledger";
import { ActionForm, type FormState } from "@/ui/kit/form";
import { TextField } from "@/ui/kit/text-field";
import type { SecondWays } from "@/usecases/identity";
import { askPasskeyAction, codeAction, passkeyAction } from "../actions";

async function signByPasskey(): Promise<FormState> {
  const asked = await askPasskeyAction();
  if (!asked.options) return { message: asked.message ?? "" };
  const { startAuthentication } = await import("@simplewebauthn/browser");
  const response = await startAuthentication({ optionsJSON: asked.options }).catch(() => undefined);
  return response
    ? passkeyAction(response)
    : { message: "Your device did not answer with a passkey. Try again, or take another way below." };
}
/** The second factor, by what this person has. */
export function CodeForm({ app, passkey }: SecondWays) {
  const code = (
    <ActionForm
      action={codeAction}
      schema={async () => (await import("@/core/forms")).secondCodeSchema}
      submit="Continue"
      weight={passkey ? "plain" : "primary"}
    >
      <TextField
        name="code"
        label={app ? "Code from your authenticator app" : "Recovery code"}
        help={
          app
            ? "Six digits; each works once. Without your app: one of your recovery codes."
            : "One of the codes you wrote down; each works once."
        }
        autoComplete="one-time-code"
        autoFocus={!passkey}
        dir="ltr"
      />
    </ActionForm>
  );
  return (
    <>
      <h1>One more step</h1>
      {passkey && <ActionForm action={signByPasskey} submit="Use your passkey" />}
      {passkey ? (
        <Fold>
          <summary>{app ? "With a code instead" : "Without your device"}</summary>
          {code}
        </Fold>
      ) : (
        code
      )}
    </>
  );
}
