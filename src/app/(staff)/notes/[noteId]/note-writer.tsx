"use client";
import type { Content, Editor } from "@tiptap/core";
import { ListItem } from "@tiptap/extension-list";
import { Table, TableCell, TableHeader, TableRow } from "@tiptap/extension-table";
import { EditorContent, useEditor, useEditorState } from "@tiptap/react";
import StarterKit from "@tiptap/starter-kit";
import { useCallback, useEffect, useState, useTransition } from "react";
import styled from "styled-components";
import { isSafeAddress, linesOf, plainText, readTakeHome, type Brought } from "@/core/notes";
import { dateFormat, instantMs, type Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { NoteView, VisitLine } from "@/usecases/notes";
import { SignedOut } from "../../signed-out";
import { layOutAction, linkNoteAction } from "./actions";
import { Beside } from "./beside";
import { Finish } from "./finish";
import { NoteSheet } from "./note-look";
import { noteHeading, noteMarks, noteNodes, ownDirection, placeholderRule } from "./note-nodes";
import { NoteStanding } from "./note-standing";
import { withoutWhatRuns } from "./pasted";
import { TakeHomePreview } from "./take-home-preview";
import { QuoteTools, Tools } from "./tools";
import { useNote } from "./use-note";

const plain = [
  StarterKit.configure({
    heading: false,
    blockquote: false,
    code: false,
    codeBlock: false,
    horizontalRule: false,
    strike: false,
    listItem: false,
    underline: false,
    link: { openOnClick: false, isAllowedUri: (href) => isSafeAddress(href), protocols: ["mailto", "tel"] },
  }),
  noteHeading,
  ownDirection,
  // What the server takes: lists of text and lists, cells of text.
  ListItem.extend({ content: "paragraph (paragraph | bulletList | orderedList)*" }),
  Table.configure({ resizable: false }),
  TableRow,
  TableHeader.extend({ content: "paragraph+" }),
  TableCell.extend({ content: "paragraph+" }),
];
const readable = (label: string) => ({
  transformPastedHTML: withoutWhatRuns,
  attributes: { "aria-label": label, role: "textbox", "aria-multiline": "true", dir: "auto", spellcheck: "true" },
});

export interface NoteWriterProps {
  readonly note: NoteView;
  readonly requestId: string;
}
/**
 * A note that is written. What the server says anew is shown around the editors at once; the editors themselves begin
 * again only with what was written elsewhere, and never while something typed here is not kept.
 */
export function NoteWriter(props: NoteWriterProps) {
  const { note } = props;
  const [shown, setShown] = useState(note);
  const [standing] = useState(() => new NoteStanding(note.revision));
  const [seen, setSeen] = useState(note);
  if (seen !== note) {
    setSeen(note);
    if (standing.isElsewhere(note.revision)) setShown(note);
  }
  return <Writing key={shown.revision} {...props} shown={shown} standing={standing} />;
}
interface WritingProps extends NoteWriterProps {
  /** What the editors begin with. */
  readonly shown: NoteView;
  readonly standing: NoteStanding;
}
/** The client's words quoted among one's own, what they get below the line, all else beside. */
function Writing({ note, requestId, shown, standing }: WritingProps) {
  const { content } = shown;
  useEffect(() => standing.shows(shown.revision), [standing, shown]);
  const { locale, zone } = useTimeFrame();
  const writing = useNote(note, standing);
  const { holds, change, state, savedAt, trouble, desk, flush } = writing;
  const dayOf = (at: Instant): string =>
    dateFormat(locale, { day: "numeric", month: "short", timeZone: zone }).format(instantMs(at));
  const [known] = useState(() => ({ quotes: content.quotes, measures: content.measures, dayOf }));
  const body = useEditor({
    immediatelyRender: false,
    // Its looks are ours; a style put in by script would be refused.
    injectCSS: false,
    extensions: [...plain, ...noteNodes(known), noteMarks(known.quotes), placeholderRule(note.values)],
    content: content.body as Content,
    editorProps: readable("The note"),
    onCreate: ({ editor }) => holds("body", editor),
    onUpdate: change,
  });
  const takeHome = useEditor({
    immediatelyRender: false,
    // Its looks are ours; a style put in by script would be refused.
    injectCSS: false,
    extensions: [...plain, noteMarks({}), placeholderRule(note.values)],
    content: content.takeHome as Content,
    editorProps: readable("Take-home, for the client"),
    onCreate: ({ editor }) => holds("takeHome", editor),
    onUpdate: change,
  });
  const isWritten = (): boolean => {
    const read = readTakeHome(takeHome?.getJSON());
    const words = read.ok ? plainText(linesOf(read.value)) : "";
    return words !== "" && words !== note.content.standing;
  };
  return (
    <Page
      title={
        <>
          Note: <bdi>{note.clientName}</bdi>
        </>
      }
      margin={<About note={note} state={state} savedAt={savedAt} />}
      actions={
        <Finish note={note} requestId={requestId} revision={standing.revision} flush={flush} isWritten={isWritten} />
      }
    >
      {trouble === "signed-out" && <SignedOut />}
      {trouble === "note-moved" && (
        <Notice tone="problem">
          <strong>{desk?.savedBy ?? "Somebody else"} saved this note while you wrote.</strong> Nothing is lost:
          whichever you go on with, the other stays in its history.{" "}
          <Cluster>
            <Button weight="plain" onPress={() => void writing.keepMine()}>
              Go on with mine
            </Button>
            <Button weight="plain" onPress={() => void writing.takeTheirs()}>
              Go on with theirs
            </Button>
          </Cluster>
        </Notice>
      )}
      {trouble !== undefined && <Trouble reason={trouble} note={note} />}
      {desk?.others.map((other) => (
        <Notice key={`${other.name} ${other.since}`} tone="attention">
          {other.own ? (
            <>You have this note open on another page too.</>
          ) : (
            <>
              <strong>
                <bdi>{other.name}</bdi> has this note open too,
              </strong>{" "}
              since <Moment at={other.since} as="clock" />. You are told before either is written over.
            </>
          )}
        </Notice>
      ))}
      <Strip as="nav" aria-label="This note">
        <Link href={`/people/${note.clientId}`}>Chart</Link>
        <Link href={`/notes/${note.id}/history`}>History</Link>
        <LayOut note={note} flush={flush} />
        <VisitPick note={note} flush={flush} />
      </Strip>
      {body && note.content.brought.length > 0 && <BroughtLine editor={body} note={note} />}
      <Desk>
        <div>
          {body && (
            <ToolRow>
              <Tools editor={body} label="Set the note" />
              <QuoteTools editor={body} quotes={note.content.quotes} />
            </ToolRow>
          )}
          <NoteSheet>
            <EditorContent editor={body} />
          </NoteSheet>
          <Perforation>
            <SectionTitle>
              Take-home <Soft>what {note.calledBy} gets; nothing above this line leaves the practice</Soft>
            </SectionTitle>
          </Perforation>
          {takeHome && (
            <ToolRow>
              <Tools editor={takeHome} label="Set the take-home" />
              <TakeHomePreview editor={takeHome} language={note.language} />
            </ToolRow>
          )}
          <NoteSheet>
            <EditorContent editor={takeHome} />
          </NoteSheet>
        </div>
        {body && <Beside note={note} editor={body} dayOf={dayOf} flush={flush} />}
      </Desk>
    </Page>
  );
}
const troubleWords: Readonly<Record<string, string>> = {
  unreadable: "Something in the note cannot be kept. Take back what you put in last (Undo); all else is still here.",
  busy: "",
  "signed-out": "",
  "note-moved": "",
};
/** Why nothing is kept any more, where the page says it nowhere else. What was typed stays on it. */
function Trouble({ reason, note }: { readonly reason: string; readonly note: NoteView }) {
  const words = troubleWords[reason];
  if (words === "") return null;
  return (
    <Notice tone="problem">
      {reason === "signed" ? (
        <>
          <strong>This note was signed off while you wrote.</strong> What you typed is still here, and is not kept: copy
          it, then <Link href={`/notes/${note.id}?`}>open the note as it stands</Link> and add it there.
        </>
      ) : (
        (words ?? "This could not be saved. What you typed is still here: copy it before you leave.")
      )}
    </Notice>
  );
}
function About({
  note,
  state,
  savedAt,
}: {
  readonly note: NoteView;
  readonly state: string;
  readonly savedAt: Instant;
}) {
  const words = (): React.ReactNode => {
    if (state === "saved")
      return (
        <>
          saved <Moment at={savedAt} as="clock" />
        </>
      );
    if (state === "failed") return "not saved yet, trying again";
    return state === "stopped" ? "not saved" : "saving…";
  };
  return (
    <>
      {note.visit ? (
        <>
          <Link href={`/visits/${note.visit.id}`}>
            <Moment at={note.visit.startsAt} />
          </Link>
          , {note.visit.visitType},{" "}
        </>
      ) : null}
      {note.author}
      {note.changedBy !== undefined && <>, changed by {note.changedBy}</>}
      <br />
      <span role="status">{words()}</span>
    </>
  );
}
interface Flushed {
  readonly note: NoteView;
  /** What is typed is kept before the page shows what the server has. */
  readonly flush: () => Promise<boolean>;
}
function LayOut({ note, flush }: Flushed) {
  const [failed, setFailed] = useState<string>();
  const [busy, start] = useTransition();
  return (
    <>
      <Pick
        bare
        small
        label="Layout of this note"
        value={note.layoutId}
        options={note.layouts.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(layoutId) =>
          start(async () => {
            await flush();
            setFailed(await layOutAction({ noteId: note.id, layoutId: String(layoutId) }));
          })
        }
      />
      {busy && <Soft role="status">Laying out…</Soft>}
      {failed && <Notice tone="problem">{failed}</Notice>}
    </>
  );
}
const visitWords = (visit: VisitLine, day: (at: Instant) => string): string =>
  `${day(visit.startsAt)}, ${visit.visitType}`;
function VisitPick({ note, flush }: Flushed) {
  const { locale, zone } = useTimeFrame();
  const [, start] = useTransition();
  const day = (at: Instant): string =>
    dateFormat(locale, { dateStyle: "medium", timeZone: zone }).format(instantMs(at));
  return (
    <Pick
      bare
      small
      label="Visit it is about"
      value={note.visit?.id ?? ""}
      placeholder="no visit"
      options={[
        { value: "", label: "no visit" },
        ...note.visits.map((visit) => ({ value: visit.id, label: visitWords(visit, day) })),
      ]}
      onChange={(id) =>
        start(async () => {
          await flush();
          await linkNoteAction({ noteId: note.id, visitId: id === "" ? null : String(id) });
        })
      }
    />
  );
}
/** What was laid in when the note was begun, and how it is all taken back. */
function BroughtLine({ editor, note }: { readonly editor: Editor; readonly note: NoteView }) {
  const { quotes } = note.content;
  const there = useEditorState({
    editor,
    selector: ({ editor: { state } }) => {
      const packets = new Set<string>();
      state.doc.forEach((node) => {
        const packet = quotes[String(node.attrs["quote"] ?? "")]?.packetId;
        if (packet !== undefined) packets.add(packet);
      });
      return [...packets].join(" ");
    },
  }).split(" ");
  const takeBack = useCallback(
    (packetId: string): void => {
      const { state, view } = editor;
      const tr = state.tr;
      const places: [number, number][] = [];
      state.doc.forEach((node, offset) => {
        const isTheirs = quotes[String(node.attrs["quote"] ?? "")]?.packetId === packetId;
        // Words of one's own stay.
        if (isTheirs && node.content.size === 0) places.push([offset, offset + node.nodeSize]);
      });
      for (const [from, to] of places.reverse()) tr.delete(from, to);
      view.dispatch(tr);
      editor.commands.focus();
    },
    [editor, quotes],
  );
  const line = (one: Brought) => (
    <Cluster key={one.packetId} $gap="0.2rem 0.9rem">
      <span>
        {one.titles.join(", ")}, returned <Moment at={one.returnedAt} as="day" />:{" "}
        {one.answers === 0 ? "beside the page" : `${one.answers} ${one.answers === 1 ? "answer" : "answers"} laid in`}
        {one.uncharted ? ", not charted yet" : ""}
      </span>
      {there.includes(one.packetId) && (
        <Button
          weight="quiet"
          onPress={() => takeBack(one.packetId)}
          aria-label={`Take it all back: ${one.titles.join(", ")}`}
        >
          Take it all back
        </Button>
      )}
      {one.uncharted && <Link href={`/returns/${one.packetId}/reconcile`}>Reconcile</Link>}
    </Cluster>
  );
  return <BroughtBox aria-label="What was brought into this note">{note.content.brought.map(line)}</BroughtBox>;
}
const BroughtBox = styled.section`
  padding-block: 0.35rem;
  border-block-end: 1px solid var(--rule);
  color: var(--soft);
  font-size: var(--small);
`;
const Desk = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 19rem;
  gap: 0 1.5rem;
  align-items: start;
  @media (max-width: 70rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
/** In sight however far down one writes: what is selected is dealt with there. */
const ToolRow = styled.div`
  position: sticky;
  inset-block-start: 0;
  z-index: 2;
  background: var(--paper);
  padding-block: 0.2rem;
  border-block-end: 1px solid var(--rule);
`;
/** What is below it can be torn off. */
const Perforation = styled.div`
  margin-block-start: 1rem;
  border-block-start: 3px dotted var(--rule-strong);
`;
