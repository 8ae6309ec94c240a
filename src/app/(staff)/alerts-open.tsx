"use client";
import styled from "styled-components";
import { ActionForm } from "@/ui/kit/form";
import { Alarm } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Soft } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import type { AlertLine } from "@/usecases/measures";
import { closeAlertAction } from "./actions";

export interface AlertsOpenProps {
  readonly alerts: readonly AlertLine[];
  /** Where several people's stand together. */
  readonly named?: boolean;
}
/** What alarmed and is open: over what, since when, and the place to write what was done, which ends it. */
export function AlertsOpen({ alerts, named = false }: AlertsOpenProps) {
  if (alerts.length === 0) return null;
  return (
    <Box aria-label="Open alerts">
      {alerts.map((alert) => (
        <div key={alert.id}>
          <p>
            <Alarm>Alert open</Alarm> since <Moment at={alert.raisedAt} />
            {named && (
              <>
                : <bdi>{alert.clientName}</bdi>
              </>
            )}
            {alert.escalatedAt !== null && (
              <Soft>
                , owners told <Moment at={alert.escalatedAt} />
              </Soft>
            )}
            . <Link href={`/returns/${alert.packetId}`}>Read the return</Link>
          </p>
          {alert.about.length === 0 && <p>What alarmed was answered otherwise since; it was said once.</p>}
          <ul>
            {alert.about.map(({ question, message }) => (
              <li key={`${question} ${message}`}>
                {message}: <span dir="auto">{question}</span>
              </li>
            ))}
          </ul>
          <CloseAlert alertId={alert.id} />
        </div>
      ))}
    </Box>
  );
}
export function CloseAlert({ alertId }: { readonly alertId: string }) {
  return (
    <ActionForm
      action={closeAlertAction}
      schema={async () => (await import("@/core/forms")).closeAlertSchema}
      submit="Close the alert"
      weight="plain"
      hidden={{ alertId }}
    >
      <TextField name="done" label="What was done" required long maxLength={2000} />
    </ActionForm>
  );
}
const Box = styled.section`
  display: grid;
  gap: 0.8rem;
  padding: 0.5rem 0.75rem;
  margin-block: 0.5rem;
  border-inline-start: 3px solid var(--madder);
  background: var(--clay-wash);
  --area: 3rem;
`;
