"use client";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { NewPassword } from "@/ui/kit/new-password";
import type { TicketView } from "@/usecases/identity";
import { takeTicketAction } from "./actions";

export interface ChoosePasswordProps {
  readonly ticket: TicketView;
  readonly token: string;
}
/** Where an invitation leads, and a letter to who forgot their password. */
export function ChoosePassword({ ticket, token }: ChoosePasswordProps) {
  const isNew = ticket.kind === "invite";
  return (
    <>
      <h1>{isNew ? <>Welcome to {ticket.practice}</> : "Choose a new password"}</h1>
      <p>
        {isNew ? "This is the account of " : "For the account of "}
        <bdi>{ticket.name}</bdi>
        {isNew ? ". Choose a password for it." : ". Wherever you are signed in, you are signed out."}
      </p>
      <ActionForm
        action={takeTicketAction}
        schema={async () => (await import("@/core/forms")).newPasswordSchema}
        submit="Save and sign in"
        hidden={{ token }}
      >
        <NewPassword autoFocus />
      </ActionForm>
    </>
  );
}
export function LinkOver() {
  return (
    <>
      <h1>This link is over</h1>
      <p>It was used already, a newer one was sent, or its time is over.</p>
      <p>
        <Link href="/sign-in/forgotten">Ask for a new password</Link>, or ask who invited you for a new invitation.
      </p>
    </>
  );
}
