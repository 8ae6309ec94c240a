"use client";
import { journalWords } from "@/core/audit";
import { Link } from "@/ui/link";
import { useState, useTransition } from "react";
import styled from "styled-components";
import { codeSchema, passwordSchema } from "@/core/forms";
import type { Instant } from "@/core/shared";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/fields";
import { ActionForm } from "@/ui/form";
import { Notice } from "@/ui/notice";
import { MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { Moment } from "@/ui/time";
import type { DoorPolicy, PagePolicy } from "@/core/packet";
import { DoorForm } from "./door-form";
import { PagesForm } from "./pages-form";
import { ChartFields, type ChartFieldsProps } from "./chart-fields";
import { confirmSecondFactorAction, endSecondFactorAction, startSecondFactorAction, type SetUp } from "./actions";

export interface OfficeViewProps {
  readonly secondFactor: boolean;
  readonly fields: ChartFieldsProps | undefined;
  readonly door: DoorPolicy | undefined;
  readonly pages: PagePolicy | undefined;
  readonly languages: readonly string[];
  readonly journal:
    | {
        readonly rows: readonly {
          readonly seq: number;
          readonly at: Instant;
          readonly by: string;
          readonly action: string;
          readonly subject: string;
          readonly address: string;
        }[];
        readonly firstBroken: number | undefined;
      }
    | undefined;
}
export function OfficeView({ secondFactor, fields, door, pages, languages, journal }: OfficeViewProps) {
  const [setUp, setSetUp] = useState<SetUp>();
  const [starting, start] = useTransition();
  const secondFactorPart = () => {
    if (secondFactor)
      return (
        <Stack>
          <p>Signing in takes your password and a code from your authenticator app.</p>
          <ActionForm action={endSecondFactorAction} schema={passwordSchema} submit="Turn it off" weight="danger">
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
          <ActionForm action={confirmSecondFactorAction} schema={codeSchema} submit="Turn it on">
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
    <Page title="Office">
      <SectionTitle>Your sign-in</SectionTitle>
      <MarginRow margin={secondFactor ? "Second factor is on" : "Second factor is off"}>{secondFactorPart()}</MarginRow>
      {door && <DoorForm key={JSON.stringify(door)} policy={door} />}
      {pages && <PagesForm key={JSON.stringify(pages)} policy={pages} languages={languages} />}
      {fields && (
        <>
          <SectionTitle>Letters and texts</SectionTitle>
          <MarginRow margin="Wordings">
            <Link href="/office/wordings">What our letters and texts say</Link>
          </MarginRow>
          <ChartFields {...fields} />
        </>
      )}
      {journal && (
        <>
          <SectionTitle>Journal</SectionTitle>
          <MarginRow margin="Chain">
            {journal.firstBroken === undefined ? (
              <Notice tone="settled">
                <strong>Unbroken.</strong> Every row covers the one before it, from the first to the last.
              </Notice>
            ) : (
              <Notice tone="problem">
                <strong>Broken at row {journal.firstBroken}.</strong> Somebody changed the database outside the app.
              </Notice>
            )}
          </MarginRow>
          {journal.rows.map((r) => (
            <MarginRow key={r.seq} margin={<Moment at={r.at} />}>
              <span className="figures">{r.seq}</span> · {journalWords[r.action]}{" "}
              <Soft>
                {r.subject}, by {r.by} from {r.address}
              </Soft>
            </MarginRow>
          ))}
        </>
      )}
    </Page>
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
