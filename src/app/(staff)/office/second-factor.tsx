"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import styled from "styled-components";
import { Button } from "@/ui/kit/button";
import { ActionForm } from "@/ui/kit/form";
import { Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import type { SecondFactorState } from "@/usecases/identity";
import { OwnPassword, passwordSchema } from "./own-password";
import { Passkeys } from "./passkeys";
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
  return (
    <Stack>
      <p>{factorWords(factor)}</p>
      <Passkeys keys={factor.passkeys} onCodes={setCodes} />
      {factor.app ? <AppIsOn /> : <AppIsOff confirm={keepCodes(confirmSecondFactorAction)} />}
      {factor.on && (
        <details>
          <summary>New recovery codes</summary>
          <ActionForm
            action={keepCodes(renewCodesAction)}
            schema={passwordSchema}
            submit="Make new codes"
            weight="plain"
          >
            <OwnPassword help="The codes you have stop working." />
          </ActionForm>
        </details>
      )}
    </Stack>
  );
}
function factorWords({ on, app, passkeys, codesLeft }: SecondFactorState): string {
  if (!on) return "Off. With a second factor, a stolen password alone opens nothing.";
  const ways = [
    ...(app ? ["a code from your authenticator app"] : []),
    ...(passkeys.length > 0 ? ["a passkey on your device"] : []),
  ];
  return `On. Signing in takes your password and ${ways.join(" or ")}. ${codesLeft} recovery ${codesLeft === 1 ? "code is" : "codes are"} left.`;
}
function ShownOnce({ codes, onDone }: { readonly codes: readonly string[]; readonly onDone: () => void }) {
  return (
    <Stack>
      <p role="status">The second factor is on. These are your recovery codes; they are shown only now.</p>
      <p>
        Write them down or print them, and keep them apart from your device: without your app or passkey, each signs you
        in once.
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
function AppIsOn() {
  return (
    <details>
      <summary>Do without the authenticator app</summary>
      <ActionForm action={endSecondFactorAction} schema={passwordSchema} submit="Turn it off" weight="danger">
        <OwnPassword />
      </ActionForm>
    </details>
  );
}
function AppIsOff({ confirm }: { readonly confirm: CodesAction }) {
  const [setUp, setSetUp] = useState<SetUp>();
  const [starting, start] = useTransition();
  if (!setUp)
    return (
      <div>
        <Button
          busy={starting}
          weight="plain"
          onPress={() =>
            start(async () => {
              setSetUp(await startSecondFactorAction());
            })
          }
        >
          Set up an authenticator app
        </Button>
      </div>
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
