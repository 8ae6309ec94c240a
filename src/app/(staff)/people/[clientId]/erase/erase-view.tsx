"use client";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import type { EraseView as EraseData } from "@/usecases/charting";
import { endHoldAction, eraseClientAction, holdClientAction } from "./actions";

const counted = (many: number, one: string, more: string): string => `${many} ${many === 1 ? one : more}`;

export interface EraseViewProps {
  readonly erase: EraseData;
  readonly requestId: string;
}
/** Erasing somebody for good, and holding against it. */
export function EraseView({ erase, requestId }: EraseViewProps) {
  const { clientId, name, counts, visitsAhead, holds } = erase;
  return (
    <Page
      title={
        <>
          Erase or hold <bdi>{name}</bdi>
        </>
      }
      margin={<Link href={`/people/${clientId}/reach`}>Details</Link>}
    >
      <SectionTitle>Hold</SectionTitle>
      {holds.map((hold) => (
        <MarginRow key={hold.id} margin={<Moment at={hold.at} />} tone="attention">
          <Stack $gap="0.5rem">
            <span>
              On hold by <bdi>{hold.by}</bdi>: <bdi>{hold.reason}</bdi>
            </span>
            <ActionForm action={endHoldAction} submit="End the hold" weight="plain" hidden={{ holdId: hold.id }} />
          </Stack>
        </MarginRow>
      ))}
      <MarginRow margin={holds.length === 0 ? "No hold" : "One more"}>
        <ActionForm
          key={holds.length}
          action={holdClientAction}
          schema={async () => (await import("@/core/forms")).holdSchema}
          submit="Put on hold"
          weight="plain"
          hidden={{ clientId, requestId }}
        >
          <TextField
            name="reason"
            label="Reason for the hold"
            help="While it stands, nothing of this client is erased, by nobody."
          />
        </ActionForm>
      </MarginRow>
      <SectionTitle>Erase</SectionTitle>
      {holds.length > 0 ? (
        <MarginRow margin="On hold">Nothing can be erased before the hold has ended.</MarginRow>
      ) : (
        <MarginRow margin="For good">
          <Stack>
            <Notice tone="problem">
              <strong>Nobody can bring this back.</strong> What goes: the chart,{" "}
              {counted(counts.packets, "packet", "packets")} with {counted(counts.answers, "answer", "answers")} and{" "}
              {counted(counts.files, "file", "files")}, {counted(counts.notes, "note", "notes")},{" "}
              {counted(counts.letters, "letter", "letters")}, relations and signatures
              {visitsAhead > 0 ? `; ${counted(visitsAhead, "visit to come is", "visits to come are")} cancelled` : ""}.
              What stays: that there were visits, without a name, and the journal, which names nobody. Older backups
              hold it until they are deleted.
            </Notice>
            <ActionForm
              action={eraseClientAction}
              schema={async () => (await import("@/core/forms")).eraseSchema}
              submit="Erase for good"
              weight="danger"
              hidden={{ clientId }}
            >
              <TextField name="reason" label="Reason for erasing" help="It stays, with your name and the date." />
              <TextField
                name="name"
                label="Whole name of the client"
                help="Typed once more, so that it is nobody else."
                autoComplete="off"
              />
            </ActionForm>
            <Soft>A copy of everything can be taken out first, on Details.</Soft>
          </Stack>
        </MarginRow>
      )}
    </Page>
  );
}
