"use client";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { TextField } from "@/ui/kit/text-field";
import { forgottenAction } from "./actions";

export function ForgottenForm() {
  return (
    <>
      <h1>Forgotten password</h1>
      <p>We send a letter with a link to choose a new one.</p>
      <ActionForm
        action={forgottenAction}
        schema={async () => (await import("@/core/forms")).emailSchema}
        submit="Send the letter"
      >
        <TextField name="email" type="email" label="E-mail" autoComplete="username" autoFocus dir="ltr" />
      </ActionForm>
      <p>
        <Link href="/sign-in">Back to sign in</Link>
      </p>
    </>
  );
}
