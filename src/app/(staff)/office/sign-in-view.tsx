"use client";
import { useState, useTransition } from "react";
import styled from "styled-components";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { MarginRow, Stack } from "@/ui/kit/page";
import {
  singleKeysAction,
  confirmSecondFactorAction,
  endSecondFactorAction,
  startSecondFactorAction,
  type SetUp,
} from "./actions";

/** One's own sign-in: the second factor. */
export function SignInView({
  secondFactor,
  singleKeys,
}: {
  readonly secondFactor: boolean;
  readonly singleKeys: boolean;
}) {
  const [setUp, setSetUp] = useState<SetUp>();
  const [starting, start] = useTransition();
  const secondFactorPart = () => {
    if (secondFactor)
      return (
        <Stack>
          <p>Signing in takes your password and a code from your authenticator app.</p>
          <ActionForm
            action={endSecondFactorAction}
            schema={async () => (await import("@/core/forms")).passwordSchema}
            submit="Turn it off"
            weight="danger"
          >
            <TextField
              name="password"
              type="password"
              label="Your password"
              autoComplete="current-password"
              dir="ltr"
            />
          </ActionForm>
        </Stack>
      );
    if (setUp)
      return (
        <Stack>
          <p>Scan this with your authenticator app, or type the key into it. Then type the six digits it shows.</p>
          <Code src={`data:image/svg+xml,${encodeURIComponent(setUp.svg)}`} alt="Picture for your authenticator app" />
          <p>
            Key: <Secret data-testid="totp-secret">{setUp.secret}</Secret>
          </p>
          <ActionForm
            action={confirmSecondFactorAction}
            schema={async () => (await import("@/core/forms")).codeSchema}
            submit="Turn it on"
          >
            <TextField name="code" label="Code" inputMode="numeric" autoComplete="one-time-code" dir="ltr" />
          </ActionForm>
        </Stack>
      );
    return (
      <Stack>
        <p>With a second factor, a stolen password alone opens nothing.</p>
        <div>
          <Button
            busy={starting}
            onPress={() =>
              start(async () => {
                setSetUp(await startSecondFactorAction());
              })
            }
          >
            Set up an authenticator app
          </Button>
        </div>
      </Stack>
    );
  };
  return (
    <>
      <MarginRow margin={secondFactor ? "Your sign-in: second factor is on" : "Your sign-in: second factor is off"}>
        {secondFactorPart()}
      </MarginRow>
      <MarginRow margin="Your keyboard">
        <Checkbox
          label="Single keys do things: ? shows which. Off for who speaks to their computer."
          isSelected={singleKeys}
          onChange={(on) => start(() => singleKeysAction(on))}
        />
      </MarginRow>
    </>
  );
}
const Code = styled.img`
  width: 12rem;
  background: white;
  padding: 0.5rem;
  border: 1px solid var(--rule);
`;
const Secret = styled.code`
  font:
    600 1rem/1.4 ui-monospace,
    monospace;
  letter-spacing: 0.05em;
  overflow-wrap: anywhere;
`;
