"use client";
import { ActionForm } from "@/ui/kit/form";
import { NewPassword } from "@/ui/kit/new-password";
import { MarginRow, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import type { OwnSession } from "@/usecases/identity";
import { changePasswordAction, signOutElsewhereAction } from "./actions";

/** One's own password, and where one is signed in. */
export function OwnAccount({ sessions }: { readonly sessions: readonly OwnSession[] }) {
  return (
    <>
      <MarginRow margin="Your password">
        <details>
          <summary>Change password</summary>
          <ActionForm
            action={changePasswordAction}
            schema={async () => {
              const { newPasswordSchema, passwordSchema } = await import("@/core/forms");
              return passwordSchema.concat(newPasswordSchema);
            }}
            submit="Change password"
            weight="plain"
          >
            <TextField
              name="password"
              type="password"
              label="Password until now"
              autoComplete="current-password"
              dir="ltr"
            />
            <NewPassword also="Everywhere else you are signed out." />
          </ActionForm>
        </details>
      </MarginRow>
      <MarginRow margin="Signed in">
        <Stack $gap="0.5rem">
          <ul>
            {sessions.map((session, index) => (
              <li key={index}>
                {deviceWords(session.device)}
                {session.here ? <strong>, here</strong> : null}{" "}
                <Soft>
                  since <Moment at={session.since} />, used <Moment at={session.usedAt} />
                </Soft>
              </li>
            ))}
          </ul>
          {sessions.length > 1 && (
            <ActionForm action={signOutElsewhereAction} submit="Sign out everywhere else" weight="plain" />
          )}
        </Stack>
      </MarginRow>
    </>
  );
}
/** As somebody would call it: what the browser says of itself holds more than helps. */
function deviceWords(device: string): string {
  const kinds = [
    [/iPad|Tablet/, "Tablet"],
    [/iPhone|Android.*Mobile|Mobile/, "Phone"],
    [/Macintosh/, "Mac"],
    [/Windows/, "Windows computer"],
    [/Linux|X11|CrOS/, "Computer"],
  ] as const;
  return kinds.find(([form]) => form.test(device))?.[1] ?? "Device";
}
