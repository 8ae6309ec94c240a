import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import type { ReactNode } from "react";
import { instantMs, type Instant } from "../core/shared";
import { Letterhead, type LetterheadFacts } from "./letterhead";
import { registerFonts, styles } from "./paper-style";
import { Words } from "./paper-words";

/** A paper of the practice's about somebody, to be read from the first page to the last. */
export interface ReadingPaper extends LetterheadFacts {
  /** What it is, with the person's name. */
  readonly title: string;
  readonly person: string;
  readonly madeAt: Instant;
  readonly madeBy: string;
  readonly zone: string;
  readonly locale: string;
}
export const left = { textAlign: "left" } as const;

/** Its pages: the letterhead, what it is, and on each of them whose it is, when it was made and which page it is. */
export async function renderReadingPaper(
  paper: ReadingPaper,
  facts: readonly string[],
  children: ReactNode,
): Promise<Uint8Array<ArrayBuffer>> {
  await registerFonts();
  const made = madeWords(paper);
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
              {[...facts, `Made ${made} by ${paper.madeBy}`].map((fact) => (
                <Words key={fact} style={left}>
                  {fact}
                </Words>
              ))}
            </View>
            {children}
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
const madeWords = ({ locale, zone, madeAt }: ReadingPaper): string =>
  new Intl.DateTimeFormat(locale, { dateStyle: "long", timeStyle: "short", timeZone: zone }).format(instantMs(madeAt));
