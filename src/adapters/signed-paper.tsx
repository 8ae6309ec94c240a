import { Document, Page, renderToBuffer, Text, View } from "@react-pdf/renderer";
import { proofWords, type Evidence, type ReadBlock, type SignedStatement } from "../core/signing";
import { directionOf, inEights, instantMs, languageName, mainLanguage, type Instant } from "../core/shared";
import { wordsDrawn } from "./drawn-words";
import { Letterhead, type LetterheadFacts } from "./letterhead";
import { Fact } from "./paper-fact";
import { Mark } from "./paper-mark";
import { registerFonts, styles } from "./paper-style";
import { Words } from "./paper-words";
import { pageOf, tagText } from "./tag-text";

/** A signature as it stands on the paper. */
export interface PaperSignature {
  readonly id: string;
  readonly place: string;
  readonly statement: SignedStatement;
  readonly digest: string;
  readonly address: string;
  readonly device: string;
  readonly evidence: Evidence | undefined;
  /** The number of its line in the practice's journal. */
  readonly journal: number | undefined;
}
/** Everything as it was read in one language. */
export interface Reading {
  readonly language: string;
  readonly title: string;
  readonly blocks: readonly ReadBlock[];
}
/** What is sealed: everything as it was read and answered, the signatures in their places, and how they were made. */
export interface SignedPaper extends LetterheadFacts {
  /** What it was read in first. */
  readonly language: string;
  readonly locale: string;
  readonly zone: string;
  readonly title: string;
  readonly version: string;
  readonly client: string;
  readonly birthDate: string | undefined;
  readonly returnedAt: Instant;
  readonly reference: string;
  readonly madeAt: Instant;
  /** The whole in each language that somebody read it in before they signed, that of the first signer first. */
  readonly readings: readonly Reading[];
  readonly signatures: readonly PaperSignature[];
  /** The talk about it, in lines. */
  readonly talk: readonly (readonly [string, string])[];
}
/** A signature that came later, on a page of its own. */
export type LaterPaper = Omit<SignedPaper, "readings" | "talk">;

export async function renderSignedPaper(paper: SignedPaper): Promise<Uint8Array> {
  await registerFonts();
  const whole = (
    <Whole paper={paper}>
      {paper.readings.map((reading) => (
        <Body key={reading.language} paper={paper} reading={reading} />
      ))}
      <EvidencePage paper={paper} title="How it was signed" talk={paper.talk} />
    </Whole>
  );
  return tagText(new Uint8Array(await renderToBuffer(whole)), wordsDrawn(whole));
}
/** The page that is added when somebody signs after the paper was sealed. */
export async function renderLaterPaper(paper: LaterPaper): Promise<Uint8Array<ArrayBuffer>> {
  await registerFonts();
  return new Uint8Array(
    await renderToBuffer(
      <Whole paper={paper}>
        <EvidencePage paper={paper} title="Signed later" talk={[]} marks />
      </Whole>,
    ),
  );
}

function Whole({ paper, children }: { readonly paper: LaterPaper; readonly children: React.ReactNode }) {
  return (
    <Document
      title={`${paper.title}: ${paper.client}`}
      author={paper.practice}
      producer="Kind Ledger"
      creator="Kind Ledger"
      language={paper.language}
      creationDate={new Date(paper.madeAt)}
    >
      {children}
    </Document>
  );
}
const momentIn = (locale: string, zone: string, at: Instant): string =>
  `${new Intl.DateTimeFormat(locale, { dateStyle: "long", timeStyle: "medium", timeZone: zone }).format(instantMs(at))} (${zone})`;

const localeFor = (language: string, own: string): string =>
  mainLanguage(language) === mainLanguage(own) ? own : language;

function Edges({ paper }: { readonly paper: LaterPaper }) {
  return (
    <>
      <View style={styles.head} fixed>
        <Words>{paper.birthDate ? `${paper.client}, ${paper.birthDate}` : paper.client}</Words>
        <Words>{`${paper.title} (${paper.version})`}</Words>
      </View>
      <View style={styles.foot} fixed>
        <Words>{`${paper.practice} · ${paper.reference}`}</Words>
        <Text render={({ pageNumber, totalPages }) => pageOf(pageNumber, totalPages)} />
      </View>
    </>
  );
}
function Body({ paper, reading }: { readonly paper: SignedPaper; readonly reading: Reading }) {
  const rtl = directionOf(reading.language) === "rtl";
  const side = { textAlign: rtl ? "right" : "left" } as const;
  const row = { flexDirection: rtl ? "row-reverse" : "row" } as const;
  const at = (place: string): PaperSignature | undefined =>
    paper.signatures.find((s) => s.place === place && s.statement.language === reading.language);
  const whole = at("");
  return (
    <Page size="A4" style={styles.page}>
      <View style={styles.body}>
        <Letterhead paper={paper} side={side} />
        <Words style={{ ...styles.title, ...side }}>{reading.title}</Words>
        <View style={styles.facts}>
          <Words style={side}>{paper.birthDate ? `${paper.client}, ${paper.birthDate}` : paper.client}</Words>
          <Words style={{ ...styles.soft, ...side }}>{momentIn(paper.locale, paper.zone, paper.returnedAt)}</Words>
        </View>
        {reading.blocks.map((block, index) => {
          if (block.kind === "answer")
            return (
              <View key={index} style={{ ...styles.row, ...row }} wrap={false}>
                <Words style={{ width: "55%", paddingHorizontal: 6, ...side }}>{block.question}</Words>
                <Words style={{ width: "45%", fontWeight: 600, ...side }}>
                  {block.answer === "" ? "–" : block.answer}
                </Words>
              </View>
            );
          if (block.kind === "heading")
            return (
              <Words key={index} style={{ fontWeight: 600, fontSize: 12, marginTop: 10, marginBottom: 4, ...side }}>
                {block.text}
              </Words>
            );
          if (block.kind === "place") {
            const signature = at(block.place);
            return signature ? <Signed key={index} signature={signature} locale={paper.locale} rtl={rtl} /> : null;
          }
          return (
            <Words key={index} style={{ ...styles.text, ...side }}>
              {block.text}
            </Words>
          );
        })}
        {whole && <Signed signature={whole} locale={paper.locale} rtl={rtl} />}
      </View>
      <Edges paper={paper} />
    </Page>
  );
}
function Signed({
  signature,
  locale,
  rtl,
}: {
  readonly signature: PaperSignature;
  /** How the practice's own language writes dates. */
  readonly locale: string;
  readonly rtl: boolean;
}) {
  const { statement, evidence } = signature;
  const side = { textAlign: rtl ? "right" : "left" } as const;
  return (
    <View style={{ ...styles.signature, alignItems: rtl ? "flex-end" : "flex-start" }} wrap={false}>
      <Words style={side}>{statement.intent}</Words>
      <Mark statement={statement} />
      <Words style={side}>{statement.signer}</Words>
      <Words style={{ ...styles.soft, ...side }}>
        {momentIn(localeFor(statement.language, locale), evidence?.zone ?? "UTC", statement.at)}
      </Words>
    </View>
  );
}
const markWords: Readonly<Record<SignedStatement["mark"]["kind"], string>> = {
  typed: "name typed",
  drawn: "drawn by hand",
  picture: "picture of a signature",
  ticked: "ticked",
  paper: "by hand, on paper",
};

function EvidencePage({
  paper,
  title,
  talk,
  marks = false,
}: {
  readonly paper: LaterPaper;
  readonly title: string;
  readonly talk: SignedPaper["talk"];
  readonly marks?: boolean;
}) {
  const facts: (readonly [string, string])[] = [
    ["Paper", `${paper.title}, version ${paper.version}`],
    ["Reference", paper.reference],
    ["Sealed for", paper.practice],
    ["Made", momentIn(paper.locale, paper.zone, paper.madeAt)],
    ...talk,
  ];
  return (
    <Page size="A4" style={styles.page}>
      <View style={{ ...styles.body, lineHeight: 1.15 }}>
        <Words style={styles.title}>{title}</Words>
        <View style={styles.facts}>
          {facts.map(([name, value]) => (
            <Fact key={name} name={name} value={value} />
          ))}
        </View>
        {paper.signatures.map((signature) => (
          <View key={signature.id} style={styles.signature} wrap={false}>
            {marks && <Words>{signature.statement.intent}</Words>}
            {marks && <Mark statement={signature.statement} />}
            <Words style={{ fontWeight: 600 }}>
              {signature.evidence
                ? `${signature.statement.signer} (${signature.evidence.as})`
                : signature.statement.signer}
            </Words>
            {evidenceOf(paper, signature).map(([name, value]) => (
              <Fact key={name} name={name} value={value} />
            ))}
          </View>
        ))}
        <Words style={{ ...styles.soft, marginTop: 14 }}>
          The digest of what was read was shown to each signer before they signed (SHA-256 of its RFC 8785 form). The
          file is sealed with a PAdES signature and a time-stamp: any later change breaks the seal.
        </Words>
      </View>
      <Edges paper={paper} />
    </Page>
  );
}
function evidenceOf(
  { locale, zone }: Pick<SignedPaper, "locale" | "zone">,
  { statement, evidence, address, device, digest, journal, id }: PaperSignature,
): (readonly [string, string])[] {
  const proved = evidence && proofWords[evidence.proof];
  return [
    ["Signed", momentIn(locale, zone, statement.at)],
    ["How", `${markWords[statement.mark.kind]}, read in ${languageName(statement.language)}`],
    ...(evidence && proved
      ? [["Proved by", evidence.provedAt ? `${proved}, ${momentIn(locale, zone, evidence.provedAt)}` : proved] as const]
      : []),
    ...(evidence?.electronic ? [["Agreed", "to sign electronically"] as const] : []),
    ["From", `${address}, ${device}`],
    ["What was read", inEights(statement.textDigest)],
    ["Signature", inEights(digest)],
    ["Journal", journal === undefined ? id : `line ${journal}, ${id}`],
  ];
}
