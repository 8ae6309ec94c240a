import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { directionOf, instantMs, type Instant } from "../core/shared";
import { registerFonts, styles } from "./paper-style";
import { Letterhead, type LetterheadFacts } from "./letterhead";
import { Words } from "./paper-words";

/**
 * What somebody wrote, on paper for them to keep: in the words they read, without scores or anything of the practice's.
 */
export interface OwnPaper extends LetterheadFacts {
  readonly language: string;
  readonly person: string;
  readonly at: Instant;
  readonly zone: string;
  readonly locale: string;
  readonly parts: readonly {
    readonly title: string;
    readonly lines: readonly { readonly question: string; readonly answer: string }[];
  }[];
}
export async function renderOwnPaper(paper: OwnPaper): Promise<Uint8Array<ArrayBuffer>> {
  await registerFonts();
  const rtl = directionOf(paper.language) === "rtl";
  const flow = { flexDirection: rtl ? "row-reverse" : "row", textAlign: rtl ? "right" : "left" } as const;
  const side = { textAlign: flow.textAlign };
  const when = new Intl.DateTimeFormat(paper.locale, {
    dateStyle: "long",
    timeStyle: "short",
    timeZone: paper.zone,
  }).format(instantMs(paper.at));
  return new Uint8Array(
    await renderToBuffer(
      <Document
        title={paper.practice}
        author={paper.person}
        producer="Kind Ledger"
        creator="Kind Ledger"
        language={paper.language}
      >
        <Page size="A4" style={styles.page}>
          <View style={styles.body}>
            <Letterhead paper={paper} side={side} />
            <View style={styles.facts}>
              <Words style={side}>{paper.person}</Words>
              <Words style={side}>{when}</Words>
            </View>
            {paper.parts.map((part) => (
              <View key={part.title}>
                <Words style={{ ...styles.title, ...side }}>{part.title}</Words>
                {part.lines.map((l, i) => (
                  <View key={i} style={{ ...styles.row, flexDirection: flow.flexDirection }} wrap={false}>
                    <Words style={{ width: "55%", paddingHorizontal: 6, ...side }}>{l.question}</Words>
                    <Words style={{ width: "45%", fontWeight: 600, ...side }}>{l.answer === "" ? "–" : l.answer}</Words>
                  </View>
                ))}
              </View>
            ))}
          </View>
          <View style={styles.head} fixed>
            <Words>{paper.person}</Words>
            <Words>{paper.parts.map((part) => part.title).join(", ")}</Words>
          </View>
          <View style={styles.foot} fixed>
            <Words>{paper.practice}</Words>
            <Words>{when}</Words>
            <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
          </View>
        </Page>
      </Document>,
    ),
  );
}
