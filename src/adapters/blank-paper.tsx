import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { ink, registerFonts, styles } from "./paper-style";
import { Letterhead, type LetterheadFacts } from "./letterhead";
import { Words } from "./paper-words";

/** One line of a questionnaire to be filled in by hand. */
export interface BlankLine {
  readonly kind: "section" | "text" | "question";
  readonly text: string;
  readonly help: string | undefined;
  /** When to answer it, in words. */
  readonly only: string | undefined;
  readonly options: readonly string[];
  /** Lines to write on; 0 where there are options only. */
  readonly rules: number;
}
export interface BlankPaper extends LetterheadFacts {
  readonly title: string;
  readonly version: string;
  readonly signed: boolean;
  readonly words: { readonly name: string; readonly date: string; readonly signature: string };
  readonly lines: readonly BlankLine[];
}

/** The questionnaire on paper, empty: for somebody who has no screen, or wants to read it first. */
export async function renderBlankPaper(paper: BlankPaper): Promise<Uint8Array<ArrayBuffer>> {
  await registerFonts();
  const rule = <View style={{ borderBottom: `0.5pt solid ${ink}`, height: 18 }} />;
  return new Uint8Array(
    await renderToBuffer(
      <Document title={paper.title} author={paper.practice} producer="Kind Ledger" creator="Kind Ledger">
        <Page size="A4" style={styles.page}>
          <View style={styles.body}>
            <Letterhead paper={paper} />
            <Words style={styles.title}>{paper.title}</Words>
            <View style={{ ...styles.facts, flexDirection: "row", gap: 16 }}>
              <View style={{ width: "60%" }}>
                <Text style={styles.soft}>{paper.words.name}</Text>
                {rule}
              </View>
              <View style={{ width: "35%" }}>
                <Text style={styles.soft}>{paper.words.date}</Text>
                {rule}
              </View>
            </View>
            {paper.lines.map((line, index) => {
              if (line.kind === "section")
                return (
                  <View key={index} minPresenceAhead={60}>
                    <Words style={{ ...styles.practice, fontSize: 13, marginTop: 10, marginBottom: 4 }}>
                      {line.text}
                    </Words>
                  </View>
                );
              if (line.kind === "text")
                return (
                  <Words key={index} style={styles.text}>
                    {line.text}
                  </Words>
                );
              return (
                <View key={index} style={{ marginBottom: 9 }} wrap={false}>
                  {line.only ? <Words style={styles.soft}>{line.only}</Words> : null}
                  <Words style={{ fontWeight: 600 }}>{line.text}</Words>
                  {line.help ? <Words style={styles.soft}>{line.help}</Words> : null}
                  <View style={{ flexDirection: "row", flexWrap: "wrap", gap: 4, marginTop: 3 }}>
                    {line.options.map((o, n) => (
                      <View key={n} style={{ flexDirection: "row", alignItems: "center", marginRight: 14 }}>
                        <View style={{ width: 9, height: 9, border: `0.8pt solid ${ink}`, marginRight: 5 }} />
                        <Words>{o}</Words>
                      </View>
                    ))}
                  </View>
                  {Array.from({ length: line.rules }, (_, n) => (
                    <View key={n} style={{ borderBottom: "0.5pt solid #8d8474", height: 18 }} />
                  ))}
                </View>
              );
            })}
            {paper.signed && (
              <View style={styles.signature} wrap={false}>
                <Text style={styles.soft}>{paper.words.signature}</Text>
                {rule}
              </View>
            )}
          </View>
          {/* A loose sheet is of no use to anybody who does not know whose it is. */}
          <View style={styles.head} fixed>
            <Words>{`${paper.words.name} ____________________________________`}</Words>
            <Words>{`${paper.words.date} ______________`}</Words>
          </View>
          <View style={styles.foot} fixed>
            <Words>{`${paper.practice}. ${paper.title}, version ${paper.version}`}</Words>
            <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
          </View>
        </Page>
      </Document>,
    ),
  );
}
