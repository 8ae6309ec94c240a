"use client";
import { linesOf } from "@/core/notes";
import { ActionForm } from "@/ui/kit/form";
import { Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { NoteLines } from "@/ui/kit/note-lines";
import { Cluster, MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import { addToNoteAction, cosignAction, shareAction, withdrawAction } from "./actions";
import type { NoteWriterProps } from "./note-writer";

/** A note that is signed off: read, added to, signed beside, and its take-home shared or withdrawn. */
export function SignedNote({ note, requestId, mayTakeOut }: NoteWriterProps & { readonly mayTakeOut: boolean }) {
  const { cosign, shared, signed } = note;
  return (
    <Page
      title={
        <>
          Note: <bdi>{note.clientName}</bdi>
        </>
      }
      margin={
        <>
          {note.visit ? (
            <>
              <Moment at={note.visit.startsAt} />, {note.visit.visitType}
              <br />
            </>
          ) : null}
          signed off by {signed!.by}, <Moment at={signed!.at} />
          {cosign && (
            <>
              <br />
              {cosign.at ? (
                <>
                  and by {cosign.by}, <Moment at={cosign.at} />
                </>
              ) : (
                <>{cosign.by} is asked to sign beside</>
              )}
            </>
          )}
        </>
      }
    >
      <Strip as="nav" aria-label="This note">
        <Link href={`/people/${note.clientId}`}>Chart</Link>
        <Link href={`/notes/${note.id}/history`}>History</Link>
        {mayTakeOut && (
          <>
            <a href={`/api/notes/${note.id}/pdf`}>PDF</a>
            <a href={`/api/notes/${note.id}/markdown`}>Markdown</a>
            <a href={`/api/notes/${note.id}/fhir`}>FHIR</a>
          </>
        )}
      </Strip>
      {cosign?.mine && !cosign.at && (
        <Notice tone="attention">
          <strong>You are asked to sign this note beside {note.author}.</strong>
          <ActionForm action={cosignAction} submit="Sign beside" hidden={{ noteId: note.id }} />
        </Notice>
      )}
      <MarginRow margin={note.author}>
        <NoteLines lines={linesOf(note.content.body, note.content)} />
      </MarginRow>
      {note.addenda.map((one) => (
        <MarginRow
          key={`${one.at} ${one.text.slice(0, 20)}`}
          margin={
            <>
              added by {one.by}
              <br />
              <Moment at={one.at} />
            </>
          }
        >
          <p dir="auto" style={{ whiteSpace: "pre-wrap" }}>
            {one.text}
          </p>
        </MarginRow>
      ))}
      <MarginRow margin="Addendum">
        <ActionForm
          key={note.addenda.length}
          action={addToNoteAction}
          submit="Add to the note"
          weight="plain"
          hidden={{ noteId: note.id, requestId }}
        >
          <TextField name="text" label="What came later" long maxLength={20_000} />
        </ActionForm>
      </MarginRow>
      <SectionTitle>Take-home</SectionTitle>
      <MarginRow
        margin={
          <>
            {shared && !shared.withdrawn && (
              <>
                shared <Moment at={shared.sharedAt} />
                {shared.version > 1 ? `, version ${shared.version}` : ""}
              </>
            )}
            {shared?.withdrawn && "withdrawn"}
            {!shared && "not shared"}
          </>
        }
      >
        <NoteLines lines={linesOf(note.content.takeHome)} />
        {note.maySend && (
          <Cluster>
            {(!shared || shared.withdrawn) && note.reach !== undefined && (
              <ActionForm
                action={shareAction}
                submit={`Share it: a letter goes to ${note.reach}`}
                weight="plain"
                hidden={{ noteId: note.id, requestId }}
              />
            )}
            {shared && !shared.withdrawn && (
              <ActionForm action={withdrawAction} submit="Withdraw it" weight="danger" hidden={{ noteId: note.id }} />
            )}
            {note.reach === undefined && <Soft>They cannot be reached.</Soft>}
          </Cluster>
        )}
      </MarginRow>
    </Page>
  );
}
