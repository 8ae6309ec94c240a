import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { directionOf, instantMs, type Instant } from "../core/shared";
import { registerFonts, styles } from "./paper-style";

/** What somebody wrote, on paper for them to keep: in the words they read, without scores or anything of the practice's. */
export interface OwnPaper {
  readonly practice: string;
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
  registerFonts();
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
          <Text style={{ ...styles.practice, ...side }}>{paper.practice}</Text>
          <View style={styles.facts}>
            <Text style={side}>{paper.person}</Text>
            <Text style={side}>{when}</Text>
          </View>
          {paper.parts.map((part) => (
            <View key={part.title}>
              <Text style={{ ...styles.title, ...side }}>{part.title}</Text>
              {part.lines.map((l, i) => (
                <View key={i} style={{ ...styles.row, flexDirection: flow.flexDirection }} wrap={false}>
                  <Text style={{ width: "55%", paddingHorizontal: 6, ...side }}>{l.question}</Text>
                  <Text style={{ width: "45%", fontWeight: 600, ...side }}>{l.answer === "" ? "–" : l.answer}</Text>
                </View>
              ))}
            </View>
          ))}
          <View style={styles.foot} fixed>
            <Text>{paper.practice}</Text>
            <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
          </View>
        </Page>
      </Document>,
    ),
  );
}
