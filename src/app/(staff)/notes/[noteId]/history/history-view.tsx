"use client";
import styled from "styled-components";
import { ActionForm } from "@/ui/kit/form";
import { Fold, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { MarginRow, Page } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { NoteHistory } from "@/usecases/notes";
import { restoreAction } from "../actions";

/** Who wrote what in a note, version by version, and how an earlier one is put back. */
export function HistoryView({ noteId, history }: { readonly noteId: string; readonly history: NoteHistory }) {
  const [now] = history.versions;
  return (
    <Page
      title={
        <>
          History of the note: <bdi>{history.clientName}</bdi>
        </>
      }
      margin={`${history.versions.length} ${history.versions.length === 1 ? "version" : "versions"}`}
    >
      <Strip as="nav" aria-label="This note">
        <Link href={`/notes/${noteId}`}>The note</Link>
      </Strip>
      {history.versions.map((version) => {
        const changed = version.lines.filter((line) => line.change !== "same");
        return (
          <MarginRow
            key={version.revision}
            margin={
              <>
                <b>
                  <bdi>{version.by}</bdi>
                </b>
                <br />
                <Moment at={version.at} />
                {version === now && (
                  <>
                    <br />
                    as it stands now
                  </>
                )}
              </>
            }
          >
            {changed.map((line, index) => (
              <p key={index} dir="auto">
                {line.change === "added" ? <Added>{line.text}</Added> : <Removed>{line.text}</Removed>}
              </p>
            ))}
            <Fold>
              <summary>The whole of it</summary>
              {version.lines
                .filter((line) => line.change !== "removed")
                .map((line, index) => (
                  <p key={index} dir="auto">
                    {line.text}
                  </p>
                ))}
            </Fold>
            {version !== now && !history.signed && (
              <ActionForm
                action={restoreAction}
                submit="Put this version back"
                weight="plain"
                hidden={{ noteId, revision: String(now!.revision), restore: String(version.revision) }}
              />
            )}
          </MarginRow>
        );
      })}
    </Page>
  );
}
const Added = styled.ins`
  text-decoration: none;
  background: var(--fern-wash);
  &::before {
    content: "+ ";
  }
`;
const Removed = styled.del`
  color: var(--soft);
  &::before {
    content: "− ";
  }
`;
