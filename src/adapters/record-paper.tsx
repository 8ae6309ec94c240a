import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { instantMs, type Instant } from "../core/shared";
import { Letterhead, type LetterheadFacts } from "./letterhead";
import { registerFonts, styles } from "./paper-style";
import { Words } from "./paper-words";

/** What is known of somebody, to be read from the first page to the last: all of it, or their chart. */
export interface RecordPaper extends LetterheadFacts {
  /** What it is, with the person's name. */
  readonly title: string;
  readonly person: string;
  readonly madeAt: Instant;
  readonly madeBy: string;
  readonly zone: string;
  readonly locale: string;
  readonly sections: readonly {
    readonly title: string;
    /** Said where there are no lines. */
    readonly nothing: string;
    readonly lines: readonly {
      readonly label: string;
      readonly text: string;
      /** When, by whom, or why it does not count any more. */
      readonly beside?: string;
    }[];
  }[];
}
const left = { textAlign: "left" } as const;
export async function renderRecordPaper(paper: RecordPaper): Promise<Uint8Array<ArrayBuffer>> {
  await registerFonts();
  const made = new Intl.DateTimeFormat(paper.locale, {
    dateStyle: "long",
    timeStyle: "short",
    timeZone: paper.zone,
  }).format(instantMs(paper.madeAt));
  return new Uint8Array(
    await renderToBuffer(
      <Document
        title={paper.title}
        author={paper.practice}
        producer="Kind Ledger"
        creator="Kind Ledger"
        language={paper.locale}
      >
        <Page size="A4" style={styles.page}>
          <View style={styles.body}>
            <Letterhead paper={paper} side={left} />
            <Words style={{ ...styles.title, ...left }}>{paper.title}</Words>
            <View style={styles.facts}>
              <Words style={left}>{`Made ${made} by ${paper.madeBy}`}</Words>
            </View>
            {paper.sections.map((section) => (
              <View key={section.title}>
                <View minPresenceAhead={60}>
                  <Words style={{ ...styles.title, ...left }}>{section.title}</Words>
                </View>
                {section.lines.length === 0 && <Words style={left}>{section.nothing}</Words>}
                {section.lines.map((line, index) => (
                  <View key={index} style={{ ...styles.row, flexDirection: "row" }}>
                    <View style={{ width: "38%", paddingHorizontal: 6 }}>
                      <Words style={left}>{line.label}</Words>
                      {line.beside ? <Words style={{ ...left, fontSize: 8 }}>{line.beside}</Words> : null}
                    </View>
                    <Words style={{ width: "62%", ...left }}>{line.text === "" ? "–" : line.text}</Words>
                  </View>
                ))}
              </View>
            ))}
          </View>
          <View style={styles.head} fixed>
            <Words>{paper.person}</Words>
            <Words>{made}</Words>
          </View>
          <View style={styles.foot} fixed>
            <Words>{paper.practice}</Words>
            <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
          </View>
        </Page>
      </Document>,
    ),
  );
}
