"use client";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import type { DemoPerson } from "@/usecases/identity";
import { signInAction } from "./actions";

/** `demo`: in the demo, everybody who can be signed in as by one press. */
export function SignInForm({ demo }: { readonly demo: readonly DemoPerson[] }) {
  return (
    <>
      <h1>Sign in</h1>
      <ActionForm
        action={signInAction}
        schema={async () => (await import("@/core/forms")).signInSchema}
        submit="Sign in"
      >
        <TextField name="email" type="email" label="E-mail" autoComplete="username" dir="ltr" />
        <TextField name="password" type="password" label="Password" autoComplete="current-password" dir="ltr" />
      </ActionForm>
      <p>
        <Link href="/sign-in/forgotten">Forgotten password</Link>
      </p>
      {demo.length > 0 && (
        <section aria-label="Demo practice">
          <h2>Demo practice</h2>
          {demo.map(({ name, title, email, password }) => (
            <ActionForm
              key={email}
              action={signInAction}
              submit={`${name}, ${title}`}
              weight="quiet"
              hidden={{ email, password }}
            />
          ))}
        </section>
      )}
    </>
  );
}
