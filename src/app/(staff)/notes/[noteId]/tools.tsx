"use client";
import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { Toolbar } from "react-aria-components/Toolbar";
import { useState } from "react";
import styled from "styled-components";
import { isSafeAddress } from "@/core/notes";
import { Button } from "@/ui/kit/button";
import { TextField } from "@/ui/kit/text-field";
import { Cluster } from "@/ui/kit/page";

const Bar = styled(Toolbar)`
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 0.2rem;
  align-items: center;
`;
/** How text is set: pressed again, it is taken back. */
export function Tools({ editor, label }: { readonly editor: Editor; readonly label: string }) {
  const [linking, setLinking] = useState(false);
  const on = useEditorState({
    editor,
    selector: ({ editor: one }) => ({
      bold: one.isActive("bold"),
      italic: one.isActive("italic"),
      heading: one.isActive("heading", { level: 2 }),
      sub: one.isActive("heading", { level: 3 }),
      bullets: one.isActive("bulletList"),
      numbers: one.isActive("orderedList"),
      table: one.isActive("table"),
      link: one.isActive("link"),
      undo: one.can().undo(),
      redo: one.can().redo(),
    }),
  });
  const chain = () => editor.chain().focus();
  const tool = (name: string, isOn: boolean, press: () => void) => (
    <Button key={name} weight="quiet" aria-pressed={isOn} onPress={press}>
      {name}
    </Button>
  );
  return (
    <>
      <Bar aria-label={label}>
        {tool("Bold", on.bold, () => chain().toggleBold().run())}
        {tool("Italic", on.italic, () => chain().toggleItalic().run())}
        {tool("Heading", on.heading, () => chain().toggleHeading({ level: 2 }).run())}
        {tool("Smaller heading", on.sub, () => chain().toggleHeading({ level: 3 }).run())}
        {tool("List", on.bullets, () => chain().toggleBulletList().run())}
        {tool("Numbers", on.numbers, () => chain().toggleOrderedList().run())}
        {tool("Table", on.table, () =>
          on.table ? chain().deleteTable().run() : chain().insertTable({ rows: 3, cols: 2, withHeaderRow: true }).run(),
        )}
        {on.table && (
          <Button weight="quiet" onPress={() => chain().addRowAfter().run()}>
            Row
          </Button>
        )}
        {tool("Link", on.link, () => (on.link ? chain().unsetLink().run() : setLinking(true)))}
        <Button weight="quiet" isDisabled={!on.undo} onPress={() => chain().undo().run()}>
          Undo
        </Button>
        <Button weight="quiet" isDisabled={!on.redo} onPress={() => chain().redo().run()}>
          Redo
        </Button>
      </Bar>
      {linking && <LinkForm editor={editor} close={() => setLinking(false)} />}
    </>
  );
}
function LinkForm({ editor, close }: { readonly editor: Editor; readonly close: () => void }) {
  const [href, setHref] = useState("https://");
  const isFine = isSafeAddress(href.trim());
  const put = (): void => {
    const mark = { type: "link", attrs: { href: href.trim() } };
    if (editor.state.selection.empty)
      editor
        .chain()
        .focus()
        .insertContent({ type: "text", text: href.trim(), marks: [mark] })
        .run();
    else editor.chain().focus().setLink({ href: href.trim() }).run();
    close();
  };
  return (
    <Cluster>
      <TextField label="Where it leads" value={href} onChange={setHref} autoFocus />
      <Button weight="plain" isDisabled={!isFine} onPress={put}>
        Put in
      </Button>
      <Button weight="quiet" onPress={close}>
        Leave it
      </Button>
    </Cluster>
  );
}

/** What can be done with the answer that is selected. */
export function QuoteTools({
  editor,
  quotes,
}: {
  readonly editor: Editor;
  readonly quotes: Readonly<Record<string, { readonly question: string; readonly answer: string }>>;
}) {
  const selected = useEditorState({
    editor,
    selector: ({ editor: { state } }) => {
      const { selection } = state;
      const node = "node" in selection ? (selection.node as typeof state.doc) : undefined;
      return node?.type.name === "quoted"
        ? { quote: String(node.attrs["quote"]), remark: String(node.attrs["remark"]), at: selection.from }
        : undefined;
    },
  });
  const quote = selected && quotes[selected.quote];
  if (!selected || !quote) return null;
  const restate = (): void => {
    editor
      .chain()
      .focus()
      .deleteSelection()
      .insertContentAt(selected.at, { type: "restated", attrs: { quote: selected.quote } })
      .run();
  };
  return (
    <Cluster $gap="0.2rem 0.75rem">
      <TextField
        label={`Remark beside “${quote.question}”`}
        bare
        placeholder="Remark beside it"
        value={selected.remark}
        onChange={(remark) => editor.commands.updateAttributes("quoted", { remark })}
      />
      <Button weight="quiet" onPress={restate}>
        Say it in my words
      </Button>
      <Button weight="quiet" onPress={() => editor.chain().focus().deleteSelection().run()}>
        Take out
      </Button>
    </Cluster>
  );
}
