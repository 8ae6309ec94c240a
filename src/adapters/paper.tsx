import { Document, Page, Path, renderToBuffer, Svg, Text, View } from "@react-pdf/renderer";
import type { QuotedAnswer } from "../core/notes";
import { missingWords, type Score } from "../core/scoring";
import type { SignedStatement } from "../core/signing";
import { instantMs, type Instant } from "../core/shared";
import { Letterhead, type LetterheadFacts } from "./letterhead";
import { Fact } from "./paper-fact";
import { ink, registerFonts, styles } from "./paper-style";
import { Words } from "./paper-words";

/** What stands on the finished paper of one returned questionnaire. */
export interface Paper extends LetterheadFacts {
  readonly zone: string;
  readonly locale: string;
  readonly title: string;
  readonly version: string;
  readonly client: string;
  readonly birthDate: string | undefined;
  readonly filledBy: string;
  readonly visit: { readonly at: Instant; readonly type: string; readonly practitioner: string } | undefined;
  readonly returnedAt: Instant;
  readonly returnedFrom: string;
  readonly reference: string;
  /** When this paper was made, and by whom. */
  readonly madeAt: Instant;
  readonly madeBy: string;
  /** Display texts, the wording of a consent above all. */
  readonly texts: readonly string[];
  readonly lines: readonly QuotedAnswer[];
  /** The words that were signed, where the client read them in another language than they stand here. */
  readonly signedWords: readonly string[];
  readonly scores: readonly Score[];
  readonly signatures: readonly {
    readonly statement: SignedStatement;
    readonly digest: string;
    readonly at: Instant;
    readonly address: string;
    readonly device: string;
  }[];
}

/** A PDF with the answers, the signature, who, when and from where. Times in the practice's zone, named. */
export async function renderPaper(paper: Paper): Promise<Uint8Array<ArrayBuffer>> {
  await registerFonts();
  return new Uint8Array(await renderToBuffer(<PaperDocument paper={paper} />));
}

function PaperDocument({ paper }: { readonly paper: Paper }) {
  const format = new Intl.DateTimeFormat(paper.locale, {
    day: "numeric",
    month: "long",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
    timeZone: paper.zone,
  });
  const moment = (at: Instant): string => `${format.format(instantMs(at))} (${paper.zone})`;
  const facts: [string, string][] = [
    ["Client", paper.birthDate ? `${paper.client}, born ${paper.birthDate}` : paper.client],
    ["Filled in by", paper.filledBy],
    ...(paper.visit
      ? [
          ["For the visit", `${moment(paper.visit.at)}, ${paper.visit.type}, ${paper.visit.practitioner}`] as [
            string,
            string,
          ],
        ]
      : []),
    ["Returned", `${moment(paper.returnedAt)}, from ${paper.returnedFrom || "an address not kept"}`],
  ];
  const lines = paper.lines.filter((l) => !paper.scores.some((score) => score.linkId === l.key));
  return (
    <Document
      title={`${paper.title}: ${paper.client}`}
      author={paper.practice}
      producer="Kind Ledger"
      creator="Kind Ledger"
      creationDate={new Date(paper.returnedAt)}
    >
      <Page size="A4" style={styles.page}>
        <View style={styles.body}>
          <Letterhead paper={paper} />
          <Words style={styles.title}>{paper.title}</Words>
          <View style={styles.facts}>
            {facts.map(([name, value]) => (
              <Fact key={name} name={name} value={value} />
            ))}
          </View>
          {paper.texts.map((t) => (
            <Words key={t} style={styles.text}>
              {t}
            </Words>
          ))}
          {paper.scores.map((score) => (
            <View key={score.linkId} style={styles.row} wrap={false}>
              <Text style={styles.margin}>Score</Text>
              <Text style={styles.asked}>{score.title}</Text>
              <Text style={styles.said}>{scoreLine(score)}</Text>
            </View>
          ))}
          {lines.map((line, index) => (
            <View key={line.key} style={styles.row} wrap={false}>
              <Text style={styles.margin}>
                {line.section !== lines[index - 1]?.section && line.section !== paper.title ? line.section : ""}
              </Text>
              <Words style={styles.asked}>{line.question}</Words>
              <Words style={styles.said}>{line.answer === "" ? "–" : line.answer}</Words>
            </View>
          ))}
          {paper.signedWords.length > 0 && (
            <View style={styles.signature}>
              <Text style={styles.soft}>As it was read and signed:</Text>
              {paper.signedWords.map((t, i) => (
                <Words key={i} style={styles.text}>
                  {t}
                </Words>
              ))}
            </View>
          )}
          {paper.signatures.map(({ statement, digest, at, address, device }) => (
            <View key={digest} style={styles.signature} wrap={false}>
              <Words>{statement.intent}</Words>
              {statement.mark.kind === "drawn" ? (
                <Svg viewBox="0 0 600 200" style={{ width: 210, height: 70 }}>
                  <Path d={statement.mark.path} stroke={ink} strokeWidth={4} fill="none" />
                </Svg>
              ) : (
                <Words style={styles.typed}>{statement.signer}</Words>
              )}
              <Text>
                Signed by {statement.signer}, {moment(at)}
              </Text>
              <Text style={styles.soft}>
                {statement.mark.kind === "drawn" ? "Drawn" : "Typed"}, from {address}, {device}
              </Text>
              <Text style={styles.soft}>SHA-256 of what was signed: {digest}</Text>
            </View>
          ))}
        </View>
        <View style={styles.head} fixed>
          <Words>{paper.birthDate ? `${paper.client}, born ${paper.birthDate}` : paper.client}</Words>
          <Words>{`${paper.title}, version ${paper.version}`}</Words>
        </View>
        <View style={styles.foot} fixed>
          <Words>{`Made ${moment(paper.madeAt)} by ${paper.madeBy}, ${paper.practice}. Reference ${paper.reference}`}</Words>
          <Text render={({ pageNumber, totalPages }) => `Page ${pageNumber} of ${totalPages}`} />
        </View>
      </Page>
    </Document>
  );
}

function scoreLine(score: Score): string {
  const missing = missingWords(score);
  const beside = missing === "" ? "" : ` (${missing})`;
  if (score.value === undefined) return `not given${beside}`;
  return `${score.value} of ${score.range[1]}${score.band ? `, ${score.band.label}` : ""}${beside}`;
}
