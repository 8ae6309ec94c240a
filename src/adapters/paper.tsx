import { Document, Page, Path, renderToBuffer, Svg, Text, View } from "@react-pdf/renderer";
import type { QuotedAnswer } from "../core/notes";
import type { Score } from "../core/scoring";
import type { SignedStatement } from "../core/signing";
import { instantMs, type Instant } from "../core/shared";
import { ink, registerFonts, s } from "./paper-style";

/** What stands on the finished paper of one returned questionnaire. */
export interface Paper {
  readonly practice: string;
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
  registerFonts();
  return new Uint8Array(await renderToBuffer(<PaperDocument paper={paper} />));
}

function PaperDocument({ paper }: { readonly paper: Paper }) {
  const moment = (at: Instant): string =>
    `${new Intl.DateTimeFormat(paper.locale, { day: "numeric", month: "long", year: "numeric", hour: "2-digit", minute: "2-digit", timeZone: paper.zone }).format(instantMs(at))} (${paper.zone})`;
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
      <Page size="A4" style={s.page}>
        <Text style={s.practice}>{paper.practice}</Text>
        <Text style={s.title}>{paper.title}</Text>
        <View style={s.facts}>
          {facts.map(([name, value]) => (
            <View key={name} style={{ flexDirection: "row" }}>
              <Text style={s.margin}>{name}</Text>
              <Text style={{ width: "72%" }}>{value}</Text>
            </View>
          ))}
        </View>
        {paper.texts.map((t) => (
          <Text key={t} style={s.text}>
            {t}
          </Text>
        ))}
        {paper.scores.map((score) => (
          <View key={score.linkId} style={s.row} wrap={false}>
            <Text style={s.margin}>Score</Text>
            <Text style={s.asked}>{score.title}</Text>
            <Text style={s.said}>
              {score.value === undefined
                ? `not given (${score.answered} of ${score.items} answered)`
                : `${score.value} of ${score.range[1]}${score.band ? `, ${score.band.label}` : ""}`}
            </Text>
          </View>
        ))}
        {lines.map((l, i) => (
          <View key={l.key} style={s.row} wrap={false}>
            <Text style={s.margin}>
              {l.section !== lines[i - 1]?.section && l.section !== paper.title ? l.section : ""}
            </Text>
            <Text style={s.asked}>{l.question}</Text>
            <Text style={s.said}>{l.answer === "" ? "–" : l.answer}</Text>
          </View>
        ))}
        {paper.signedWords.length > 0 && (
          <View style={s.signature}>
            <Text style={s.soft}>As it was read and signed:</Text>
            {paper.signedWords.map((t, i) => (
              <Text key={i} style={s.text}>
                {t}
              </Text>
            ))}
          </View>
        )}
        {paper.signatures.map(({ statement, digest, at, address, device }) => (
          <View key={digest} style={s.signature} wrap={false}>
            <Text>{statement.intent}</Text>
            {statement.mark.kind === "drawn" ? (
              <Svg viewBox="0 0 600 200" style={{ width: 210, height: 70 }}>
                <Path d={statement.mark.path} stroke={ink} strokeWidth={4} fill="none" />
              </Svg>
            ) : (
              <Text style={s.typed}>{statement.signer}</Text>
            )}
            <Text>
              Signed by {statement.signer}, {moment(at)}
            </Text>
            <Text style={s.soft}>
              {statement.mark.kind === "drawn" ? "Drawn" : "Typed"}, from {address}, {device}
            </Text>
            <Text style={s.soft}>SHA-256 of what was signed: {digest}</Text>
          </View>
        ))}
        <View style={s.foot} fixed>
          <Text>
            {paper.title}, version {paper.version}. Reference {paper.reference}
          </Text>
          <Text render={({ pageNumber, totalPages }) => `${pageNumber} of ${totalPages}`} />
        </View>
      </Page>
    </Document>
  );
}
