"use client";
import type { Editor } from "@tiptap/core";
import { useState } from "react";
import styled from "styled-components";
import { linesOf, readTakeHome } from "@/core/notes";
import { directionOf } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { NoteLines } from "@/ui/kit/note-lines";

/** The take-home as the client will read it. */
export function TakeHomePreview({ editor, language }: { readonly editor: Editor; readonly language: string }) {
  const [open, setOpen] = useState(false);
  const read = open ? readTakeHome(editor.getJSON()) : undefined;
  return (
    <>
      <Button weight="quiet" aria-expanded={open} onPress={() => setOpen(!open)}>
        {open ? "Close the preview" : "Preview as the client"}
      </Button>
      {read?.ok && (
        <Leaf lang={language} dir={directionOf(language)}>
          <NoteLines lines={linesOf(read.value)} />
        </Leaf>
      )}
    </>
  );
}
const Leaf = styled.div`
  max-width: 26rem;
  margin-block: 0.5rem;
  padding: 1rem;
  background: var(--leaf);
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
`;
