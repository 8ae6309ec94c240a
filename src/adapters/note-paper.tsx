import { Document, Link, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { measureWords, type NoteLine, type Run } from "../core/notes";
import { instantMs, type Instant } from "../core/shared";
import { Letterhead, type LetterheadFacts } from "./letterhead";
import { registerFonts, styles } from "./paper-style";
import { Words } from "./paper-words";

/** A note as a paper. */
export interface NotePaper extends LetterheadFacts {
  readonly title: string;
  readonly person: string;
  /** About which visit, signed by whom. */
  readonly facts: readonly string[];
  readonly lines: readonly NoteLine[];
  readonly madeAt: Instant;
  readonly madeBy: string;
  readonly zone: string;
  readonly locale: string;
}
const left = { textAlign: "left" } as const;
/** One indent of a list, in points. */
const indent = 14;

export async function renderNotePaper(paper: NotePaper): Promise<Uint8Array<ArrayBuffer>> {
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
              {paper.facts.map((fact) => (
                <Words key={fact} style={left}>
                  {fact}
                </Words>
              ))}
            </View>
            {paper.lines.map((line, index) => (
              <OneLine key={index} line={line} />
            ))}
          </View>
          <View style={styles.head} fixed>
            <Words>{paper.person}</Words>
            <Words>{made}</Words>
          </View>
          <View style={styles.foot} fixed>
            <Words>{`${paper.practice}, ${paper.madeBy}`}</Words>
            <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
          </View>
        </Page>
      </Document>,
    ),
  );
}
const wordsOf = (runs: readonly Run[]): string => runs.map(({ text }) => text).join("");
/** Where a text leads, below it: on paper nothing can be pressed, and it stands there to be read. */
function Links({ runs }: { readonly runs: readonly Run[] }) {
  return (
    <>
      {runs.flatMap(({ href }, index) =>
        href === undefined
          ? []
          : [
              <Link key={index} src={href} style={{ fontSize: 8 }}>
                {href}
              </Link>,
            ],
      )}
    </>
  );
}
function OneLine({ line }: { readonly line: NoteLine }) {
  switch (line.kind) {
    case "heading":
      return (
        <View minPresenceAhead={40}>
          <Words style={{ ...styles.title, ...left, fontSize: line.level === 2 ? 13 : 11 }}>{line.text}</Words>
        </View>
      );
    case "text":
      return (
        <View style={{ marginBottom: 4 }}>
          <Words style={left}>{wordsOf(line.runs)}</Words>
          <Links runs={line.runs} />
        </View>
      );
    case "item":
      return (
        <View style={{ flexDirection: "row", marginLeft: indent * line.depth, marginBottom: 2 }}>
          <View style={{ width: indent }}>
            <Words>{line.number === undefined ? "–" : `${line.number}.`}</Words>
          </View>
          <View style={{ flexGrow: 1, flexShrink: 1 }}>
            <Words style={left}>{wordsOf(line.runs)}</Words>
            <Links runs={line.runs} />
          </View>
        </View>
      );
    case "row":
      return (
        <View style={{ ...styles.row, flexDirection: "row" }}>
          {line.cells.map((cell, index) => (
            <View key={index} style={{ width: `${100 / line.cells.length}%`, paddingHorizontal: 4 }}>
              <Words style={left}>{cell}</Words>
            </View>
          ))}
        </View>
      );
    case "quoted":
      return (
        <View style={{ ...styles.row, flexDirection: "row" }}>
          <View style={{ width: "38%", paddingHorizontal: 6 }}>
            <Words style={left}>{line.quote.question}</Words>
            <Words style={{ ...left, fontSize: 8 }}>{`${line.quote.by}, ${line.quote.source}`}</Words>
          </View>
          <View style={{ width: "62%" }}>
            <Words style={left}>{line.quote.answer}</Words>
            {line.remark === "" ? null : <Words style={{ ...left, fontSize: 9 }}>{`Remark: ${line.remark}`}</Words>}
          </View>
        </View>
      );
    case "restated":
      return (
        <View style={{ ...styles.row, flexDirection: "row" }}>
          <View style={{ width: "38%", paddingHorizontal: 6 }}>
            <Words style={left}>{line.quote.question}</Words>
          </View>
          <View style={{ width: "62%" }}>
            <Words style={left}>{line.text}</Words>
          </View>
        </View>
      );
    case "measure":
      return (
        <View style={{ marginBottom: 4 }}>
          <Words style={left}>{measureWords(line.measure)}</Words>
        </View>
      );
  }
}
