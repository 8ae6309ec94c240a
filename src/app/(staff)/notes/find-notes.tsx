"use client";
import { useState, useTransition } from "react";
import { Button } from "@/ui/kit/button";
import { ListLine, Name } from "@/ui/kit/ledger";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Page, Soft } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import type { FoundNotes } from "@/usecases/notes";
import { findNotesAction } from "./actions";

/** Looks for words in every note that one may see. */
export function FindNotes() {
  const [words, setWords] = useState("");
  const [found, setFound] = useState<FoundNotes>();
  const [failed, setFailed] = useState<string>();
  const [looking, start] = useTransition();
  const look = (before?: string): void =>
    start(async () => {
      const result = await findNotesAction(words, before);
      setFailed(typeof result === "string" ? result : undefined);
      if (typeof result === "string") return;
      const earlier = before === undefined || !found ? [] : found.lines;
      const looked = result.looked + (before === undefined || !found ? 0 : found.looked);
      setFound({ ...result, looked, lines: [...earlier, ...result.lines] });
    });
  return (
    <Page title="Find in notes">
      <MarginRow margin="Words">
        <form
          role="search"
          onSubmit={(event) => {
            event.preventDefault();
            look();
          }}
        >
          <Cluster>
            <TextField label="Words that stand in the note" value={words} onChange={setWords} maxLength={200} />
            <Button type="submit" weight="primary" isDisabled={words.trim() === ""} busy={looking}>
              Find
            </Button>
          </Cluster>
        </form>
      </MarginRow>
      {failed !== undefined && <Notice tone="problem">{failed}</Notice>}
      {found && (
        <>
          <Soft as="p" role="status">
            {found.lines.length === 0 ? "No note says so" : `${found.lines.length} found`}, in the newest {found.looked}
            .
          </Soft>
          <ol onKeyDown={rowKeys}>
            {found.lines.map((line) => (
              <ListLine key={line.id} margin={<Moment at={line.at} />} action={<Soft>{line.by}</Soft>}>
                <Name href={`/notes/${line.id}`} data-row>
                  <bdi>{line.clientName}</bdi>
                </Name>
                <Soft as="p" dir="auto">
                  {line.excerpt}
                </Soft>
              </ListLine>
            ))}
          </ol>
          {found.before !== undefined && (
            <Button weight="plain" busy={looking} onPress={() => look(found.before)}>
              Look through earlier ones
            </Button>
          )}
        </>
      )}
    </Page>
  );
}
