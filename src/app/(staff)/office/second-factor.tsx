"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import styled from "styled-components";
import { Button } from "@/ui/kit/button";
import { ActionForm } from "@/ui/kit/form";
import { Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import type { SecondFactorState } from "@/usecases/identity";
import {
  confirmSecondFactorAction,
  endSecondFactorAction,
  renewCodesAction,
  startSecondFactorAction,
  type CodesState,
  type SetUp,
} from "./actions";

type CodesAction = (before: CodesState, sent: FormData) => Promise<CodesState>;

/** One's own second factor, and the codes for who has lost it. */
export function SecondFactor({ factor }: { readonly factor: SecondFactorState }) {
  const router = useRouter();
  const [codes, setCodes] = useState<readonly string[]>();
  const keepCodes =
    (action: CodesAction): CodesAction =>
    async (before, sent) => {
      const answer = await action(before, sent);
      if (answer.codes) setCodes(answer.codes);
      return answer;
    };
  if (codes)
    return (
      <ShownOnce
        codes={codes}
        onDone={() => {
          setCodes(undefined);
          router.refresh();
        }}
      />
    );
  return factor.on ? (
    <IsOn left={factor.codesLeft} renew={keepCodes(renewCodesAction)} />
  ) : (
    <IsOff confirm={keepCodes(confirmSecondFactorAction)} />
  );
}
function ShownOnce({ codes, onDone }: { readonly codes: readonly string[]; readonly onDone: () => void }) {
  return (
    <Stack>
      <p role="status">The second factor is on. These are your recovery codes; they are shown only now.</p>
      <p>
        Write them down or print them, and keep them apart from your device: without your authenticator app, each signs
        you in once.
      </p>
      <Codes aria-label="Recovery codes">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </Codes>
      <div>
        <Button onPress={onDone}>I have them</Button>
      </div>
    </Stack>
  );
}
function OwnPassword({ help }: { readonly help?: string }) {
  return (
    <TextField
      name="password"
      type="password"
      label="Your password"
      help={help}
      autoComplete="current-password"
      dir="ltr"
    />
  );
}
const passwordSchema = async () => (await import("@/core/forms")).passwordSchema;

function IsOn({ left, renew }: { readonly left: number; readonly renew: CodesAction }) {
  return (
    <Stack>
      <p>
        On. Signing in takes your password and a code from your authenticator app. {left} recovery{" "}
        {left === 1 ? "code is" : "codes are"} left.
      </p>
      <details>
        <summary>New recovery codes</summary>
        <ActionForm action={renew} schema={passwordSchema} submit="Make new codes" weight="plain">
          <OwnPassword help="The codes you have stop working." />
        </ActionForm>
      </details>
      <details>
        <summary>Turn the second factor off</summary>
        <ActionForm action={endSecondFactorAction} schema={passwordSchema} submit="Turn it off" weight="danger">
          <OwnPassword />
        </ActionForm>
      </details>
    </Stack>
  );
}
function IsOff({ confirm }: { readonly confirm: CodesAction }) {
  const [setUp, setSetUp] = useState<SetUp>();
  const [starting, start] = useTransition();
  if (!setUp)
    return (
      <Stack>
        <p>Off. With a second factor, a stolen password alone opens nothing.</p>
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
  return (
    <Stack>
      <p>Scan this with your authenticator app, or type the key into it. Then type the six digits it shows.</p>
      <Code src={`data:image/svg+xml,${encodeURIComponent(setUp.svg)}`} alt="Picture for your authenticator app" />
      <p>
        Key: <Secret data-testid="totp-secret">{setUp.secret}</Secret>
      </p>
      <ActionForm action={confirm} schema={async () => (await import("@/core/forms")).codeSchema} submit="Turn it on">
        <TextField name="code" label="Code" inputMode="numeric" autoComplete="one-time-code" dir="ltr" />
      </ActionForm>
    </Stack>
  );
}
const Code = styled.img`
  width: 12rem;
  background: white;
  padding: 0.5rem;
  border: 1px solid var(--rule);
`;
const Codes = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
  gap: 0.4rem 1rem;
  max-width: 30rem;
  font:
    600 1rem/1.4 ui-monospace,
    monospace;
`;
const Secret = styled.code`
  font:
    600 1rem/1.4 ui-monospace,
    monospace;
  letter-spacing: 0.05em;
  overflow-wrap: anywhere;
`;
