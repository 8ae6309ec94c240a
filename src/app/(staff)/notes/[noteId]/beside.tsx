"use client";
import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { Button as AriaButton } from "react-aria-components/Button";
import { useState, useTransition } from "react";
import styled from "styled-components";
import { measureWords, type Quote } from "@/core/notes";
import type { Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Fold } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Soft } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import { Moment } from "@/ui/kit/time";
import type { NoteView } from "@/usecases/notes";
import { bringAction } from "./actions";

export interface BesideProps {
  readonly note: NoteView;
  readonly editor: Editor;
  readonly dayOf: (at: Instant) => string;
  readonly flush: () => Promise<boolean>;
}
/** All there is to know while writing: what they asked for and how it changed, what was left over, the note before. */
export function Beside({ note, editor, dayOf, flush }: BesideProps) {
  const { beside, content } = note;
  const measures = Object.values(content.measures);
  return (
    <Column aria-label="Beside the note">
      <LeftOver note={note} editor={editor} dayOf={dayOf} />
      {(beside.goals !== "" || measures.length > 0) && (
        <section aria-label="Asked for, and changed">
          <Head>Asked for, and changed</Head>
          {beside.goals !== "" && <Said dir="auto">{beside.goals}</Said>}
          {measures.map((measure) => (
            <p key={measure.title}>{measureWords(measure)}</p>
          ))}
        </section>
      )}
      {beside.quick.length > 0 && (
        <section aria-label="Quick facts">
          <Head>Quick facts</Head>
          <dl>
            {beside.quick.map((fact) => (
              <div key={fact.label}>
                <dt>{fact.label}</dt>
                <dd dir="auto">{fact.value}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
      {beside.last && (
        <section aria-label="The note before">
          <Head>
            The note before <Moment at={beside.last.at} as="day" />
          </Head>
          <Past dir="auto">{beside.last.text === "" ? "Nothing of one’s own stands in it." : beside.last.text}</Past>
          <Link href={`/notes/${beside.last.id}`}>Open it</Link>
        </section>
      )}
      {beside.returns.length > 0 && <OtherReturns note={note} flush={flush} />}
    </Column>
  );
}
/** Answers that stand nowhere in the note: put in one by one, or a section at a time, below where one writes. */
function LeftOver({ note, editor, dayOf }: Omit<BesideProps, "flush">) {
  const { quotes } = note.content;
  const there = useEditorState({
    editor,
    selector: ({ editor: { state } }) => {
      const keys: string[] = [];
      state.doc.forEach((node) => {
        if (node.attrs["quote"]) keys.push(String(node.attrs["quote"]));
      });
      return keys.join("\n");
    },
  });
  const used = new Set(there.split("\n"));
  const left = Object.entries(quotes).filter(([key, quote]) => !used.has(key) && quote.answer !== "");
  const sections = [...new Set(left.map(([, quote]) => sectionOf(quote)))];
  const putIn = (keys: readonly string[]): void => {
    const { $from } = editor.state.selection;
    const at = $from.depth > 0 ? $from.after(1) : editor.state.selection.to;
    editor
      .chain()
      .insertContentAt(
        Math.min(at, editor.state.doc.content.size),
        keys.map((quote) => ({ type: "quoted", attrs: { quote, remark: "" } })),
      )
      .run();
  };
  return (
    <section aria-label="Left over">
      <Head>
        Left over <Soft>{left.length}</Soft>
      </Head>
      {left.length === 0 && <Soft as="p">Everything they answered stands in the note.</Soft>}
      <div onKeyDown={rowKeys}>
        {sections.map((section) => {
          const own = left.filter(([, quote]) => sectionOf(quote) === section);
          const at = own[0]![1].at;
          return (
            <Fold key={section} open={own.length <= 8}>
              <summary>
                <bdi>{section}</bdi>, {dayOf(at)}: {own.length}
              </summary>
              {own.length > 1 && (
                <Button weight="quiet" onPress={() => putIn(own.map(([key]) => key))}>
                  Put all {own.length} in
                </Button>
              )}
              <ul>
                {own.map(([key, quote]) => (
                  <li key={key}>
                    <Row data-row onPress={() => putIn([key])} aria-label={`Put in: ${quote.question}`}>
                      <Soft>{quote.question}</Soft> <span dir="auto">{quote.answer}</span>
                    </Row>
                  </li>
                ))}
              </ul>
            </Fold>
          );
        })}
      </div>
    </section>
  );
}
const sectionOf = (quote: Quote): string =>
  quote.section === "" || quote.section === quote.source ? quote.source : `${quote.source}: ${quote.section}`;
function OtherReturns({ note, flush }: Pick<BesideProps, "note" | "flush">) {
  const [failed, setFailed] = useState<string>();
  const [, start] = useTransition();
  return (
    <section aria-label="Other returns">
      <Head>Other returns</Head>
      <ul>
        {note.beside.returns.map((one) => (
          <li key={one.packetId}>
            <Button
              weight="quiet"
              aria-label={`Bring ${one.titles.join(", ")} here`}
              onPress={() =>
                start(async () => {
                  await flush();
                  setFailed(await bringAction({ noteId: note.id, packetId: one.packetId }));
                })
              }
            >
              Bring here
            </Button>{" "}
            {one.titles.join(", ")}{" "}
            <Soft>
              <Moment at={one.at} as="day" />
            </Soft>
          </li>
        ))}
      </ul>
      {failed && <p role="alert">{failed}</p>}
    </section>
  );
}
const Column = styled.aside`
  display: grid;
  gap: 0.9rem;
  padding-block: 0.4rem;
  font-size: var(--small);
  @media (min-width: 70.01rem) {
    position: sticky;
    inset-block-start: 0;
    max-height: 100vh;
    overflow-y: auto;
  }
  & dl {
    display: grid;
    gap: 0.15rem;
  }
  & dt {
    color: var(--soft);
  }
`;
const Head = styled.h2`
  font: 600 0.98rem/1.3 var(--serif);
  border-block-end: 1px solid var(--rule-strong);
  margin-block-end: 0.25rem;
`;
const Said = styled.p`
  font: 500 1rem/1.35 var(--serif);
  white-space: pre-wrap;
`;
const Past = styled.p`
  white-space: pre-wrap;
  max-height: 12rem;
  overflow: auto;
`;
const Row = styled(AriaButton)`
  display: block;
  width: 100%;
  min-height: 1.6rem;
  padding: 0.15rem 0.3rem;
  border: 0;
  border-block-end: 1px solid var(--rule);
  background: none;
  color: inherit;
  font: inherit;
  text-align: start;
  cursor: pointer;
  overflow-wrap: anywhere;
  &[data-hovered] {
    background: var(--fern-wash);
  }
`;
