import { Extension, InputRule, Node, mergeAttributes, type NodeViewRenderer } from "@tiptap/core";
import Heading from "@tiptap/extension-heading";
import { Plugin } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";
import { measureWords, type MeasureFact, type NoteValues, type Quote } from "@/core/notes";
import { drawPlot } from "./plot";

/** What the nodes of a note show, and how a moment is said. */
export interface Known {
  readonly quotes: Readonly<Record<string, Quote>>;
  readonly measures: Readonly<Record<string, MeasureFact>>;
  readonly dayOf: (at: Quote["at"]) => string;
}
const element = (tag: string, name: string, text?: string): HTMLElement => {
  const made = document.createElement(tag);
  made.className = name;
  if (text !== undefined) made.textContent = text;
  return made;
};
const isolated = (tag: string, name: string, text?: string): HTMLElement => {
  const made = element(tag, name, text);
  made.dir = "auto";
  return made;
};
/** Whose words they are: in the margin, where it is not the same as just above. */
function whose(quote: Quote, dayOf: Known["dayOf"]): HTMLElement {
  const margin = element("div", "whose");
  margin.contentEditable = "false";
  const name = element("b", "");
  name.append(isolated("bdi", "", quote.by.split(" ")[0] || "Theirs"));
  margin.append(name, `, ${dayOf(quote.at)}`, document.createElement("br"), isolated("span", "", quote.source));
  return margin;
}
const missing = (): HTMLElement => element("div", "quoted", "What stood here is not there any more.");

/** Quoted answers are plain elements, not components: there may be hundreds, and typing must not wait for them. */
const quotedView =
  ({ quotes, dayOf }: Known): NodeViewRenderer =>
  ({ node }) => {
    const quote = quotes[String(node.attrs["quote"])];
    if (!quote) return { dom: missing() };
    const dom = element("div", "quoted");
    const remark = isolated("div", "remark");
    const show = (text: unknown): void => {
      remark.textContent = String(text ?? "");
      remark.hidden = remark.textContent === "";
    };
    show(node.attrs["remark"]);
    dom.append(
      whose(quote, dayOf),
      isolated("div", "question", quote.question),
      isolated("div", "answer", quote.answer === "" ? "not answered: ask" : quote.answer),
      remark,
    );
    return {
      dom,
      update(next) {
        if (next.type !== node.type || next.attrs["quote"] !== node.attrs["quote"]) return false;
        show(next.attrs["remark"]);
        return true;
      },
    };
  };
/** Words of the practitioner's: for a question that was left open, or in the place of what was answered. */
const answeredView =
  ({ quotes }: Known, name: "restated" | "open"): NodeViewRenderer =>
  ({ node }) => {
    const quote = quotes[String(node.attrs["quote"])];
    const dom = element("div", name);
    const question = isolated("div", "question", quote?.question ?? "");
    question.contentEditable = "false";
    // What they wrote stays in sight, as theirs.
    if (name === "restated" && quote) question.append(isolated("q", "theirs", quote.answer));
    const contentDOM = isolated("div", "answer");
    dom.append(question, contentDOM);
    const mark = (isEmpty: boolean): void => {
      dom.dataset["empty"] = isEmpty ? "yes" : "no";
    };
    mark(node.content.size === 0);
    return {
      dom,
      contentDOM,
      update(next) {
        if (next.type !== node.type || next.attrs["quote"] !== node.attrs["quote"]) return false;
        mark(next.content.size === 0);
        return true;
      },
    };
  };
const measureView =
  ({ measures, dayOf }: Known): NodeViewRenderer =>
  ({ node }) => {
    const fact = measures[String(node.attrs["measure"])];
    if (!fact) return { dom: missing() };
    const dom = element("div", "measure");
    const canvas = element("canvas", "") as HTMLCanvasElement;
    canvas.setAttribute("aria-hidden", "true");
    [canvas.width, canvas.height] = [220, 60];
    dom.append(canvas, isolated("div", "said", measureWords(fact)));
    const drawn = drawPlot(canvas, fact, dayOf);
    return { dom, destroy: () => void drawn.then((plot) => plot?.destroy()) };
  };

/** An attribute that goes along when a node is copied. What is pasted only names what the note has: its words are not in it. */
const carried = (name: string) => ({
  default: "",
  parseHTML: (pasted: HTMLElement) => pasted.getAttribute(`data-${name}`) ?? "",
  renderHTML: (attributes: Readonly<Record<string, unknown>>) => ({ [`data-${name}`]: String(attributes[name] ?? "") }),
});
/** How a node that names something looks on its way through the clipboard. */
const copied = (kind: string, name: "quote" | "measure", has: Readonly<Record<string, unknown>>) => ({
  parseHTML: () => [
    {
      tag: `div[data-kind="${kind}"]`,
      // What this note does not have is no node of it: its text is pasted as text.
      getAttrs: (pasted: HTMLElement) => (Object.hasOwn(has, pasted.getAttribute(`data-${name}`) ?? "") ? null : false),
    },
  ],
  renderHTML: ({ HTMLAttributes }: { readonly HTMLAttributes: Record<string, unknown> }) =>
    ["div", mergeAttributes(HTMLAttributes, { "data-kind": kind })] as const,
});
export const noteNodes = (known: Known) => [
  Node.create({
    name: "quoted",
    group: "block",
    atom: true,
    selectable: true,
    draggable: true,
    addAttributes: () => ({ quote: carried("quote"), remark: carried("remark") }),
    ...copied("quoted", "quote", known.quotes),
    renderText: ({ node }) => {
      const quote = known.quotes[String(node.attrs["quote"])];
      return quote ? `${quote.question} ${quote.answer}` : "";
    },
    addNodeView: () => quotedView(known),
  }),
  ...(["restated", "openPrompt"] as const).map((name) =>
    Node.create({
      name,
      group: "block",
      content: "inline*",
      defining: true,
      isolating: true,
      addAttributes: () => ({ quote: carried("quote") }),
      ...copied(name, "quote", known.quotes),
      renderHTML: ({ HTMLAttributes }) => ["div", mergeAttributes(HTMLAttributes, { "data-kind": name }), 0],
      addNodeView: () => answeredView(known, name === "restated" ? "restated" : "open"),
    }),
  ),
  Node.create({
    name: "measure",
    group: "block",
    atom: true,
    selectable: true,
    draggable: true,
    addAttributes: () => ({ measure: carried("measure") }),
    ...copied("measure", "measure", known.measures),
    addNodeView: () => measureView(known),
  }),
];
export const noteHeading = Heading.extend({
  addAttributes() {
    return { ...this.parent?.(), section: { default: null }, prompt: { default: null } };
  },
}).configure({ levels: [2, 3] });

/** Says what belongs under a heading while nothing is there, and whose words stand below each other only once. */
export const noteMarks = (quotes: Known["quotes"]) =>
  Extension.create({
    name: "noteMarks",
    addProseMirrorPlugins: () => [
      new Plugin({
        props: {
          decorations({ doc }) {
            const marks: Decoration[] = [];
            let above: Known["quotes"][string] | undefined;
            doc.forEach((node, offset, index) => {
              const before = index > 0 ? doc.child(index - 1) : undefined;
              const ends = [offset, offset + node.nodeSize] as const;
              const own = quotes[String(node.attrs["quote"] ?? "")];
              if (node.type.name === "quoted" && own) {
                if (own.source === above?.source && own.at === above.at)
                  marks.push(Decoration.node(...ends, { class: "goes-on" }));
                above = own;
              } else if (node.type.name !== "openPrompt") above = undefined;
              const prompt: unknown = before?.type.name === "heading" ? before.attrs["prompt"] : undefined;
              const next = index + 1 < doc.childCount ? doc.child(index + 1) : undefined;
              const isAlone = node.type.name === "paragraph" && node.content.size === 0;
              if (typeof prompt === "string" && isAlone && (!next || next.type.name === "heading"))
                marks.push(Decoration.node(...ends, { "data-prompt": prompt }));
            });
            return DecorationSet.create(doc, marks);
          },
        },
      }),
    ],
  });
/** Each line runs the way its own words do. */
export const ownDirection = Extension.create({
  name: "ownDirection",
  addGlobalAttributes: () => [
    {
      types: ["paragraph", "heading"],
      attributes: { dir: { default: null, renderHTML: () => ({ dir: "auto" }), parseHTML: () => null } },
    },
  ],
});
/** `{{client.preferredName}}` stands for a name as soon as it is typed. */
export const placeholderRule = (values: NoteValues) =>
  Extension.create({
    name: "placeholders",
    addInputRules: () => [
      new InputRule({
        find: /\{\{\s*([\w.]+)\s*\}\}$/,
        handler({ state, range, match }) {
          const name = match[1] as keyof NoteValues;
          if (Object.hasOwn(values, name)) state.tr.insertText(values[name], range.from, range.to);
        },
      }),
    ],
  });
