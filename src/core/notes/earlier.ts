import type { Instant } from "../shared";
import type { NoteContent, Quote } from "./content";
import { quoteKey } from "./draft";
import { paragraphs, type NoteBlock } from "./document";

/** A note as it was kept before there were documents: own words by heading, and quoted answers. */
type EarlierBlock =
  | { readonly kind: "own"; readonly id: string; readonly heading: string; readonly text: string }
  | ({ readonly kind: "quoted"; readonly partId: string; readonly key: string; readonly questionnaire: string } & Pick<
      Quote,
      "section" | "question" | "answer" | "files"
    >);
/** What was kept, as a note of today. */
export function contentOf(kept: NoteContent | readonly EarlierBlock[], at: Instant): NoteContent {
  if (!Array.isArray(kept)) return kept as NoteContent;
  const quotes: Record<string, Quote> = {};
  const content = (kept as readonly EarlierBlock[]).flatMap((block): NoteBlock[] => {
    if (block.kind === "own")
      return [
        {
          type: "heading",
          attrs: { level: 2, section: block.id, prompt: null },
          content: [{ type: "text", text: block.heading }],
        },
        ...paragraphs(block.text),
      ];
    const quote = quoteKey(block);
    const { kind: _, questionnaire, ...rest } = block;
    quotes[quote] = { kind: "answer", by: "", at, source: questionnaire, ...rest };
    return [{ type: "quoted", attrs: { quote, remark: "" } }];
  });
  const nothing = { type: "doc", content: [{ type: "paragraph" }] } as const;
  return { body: { type: "doc", content }, takeHome: nothing, quotes, measures: {}, brought: [] };
}
