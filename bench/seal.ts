import { makeIdentity, ownTimeStamps, sealPdf } from "../src/adapters/seal";
import { renderSignedPaper, type SignedPaper } from "../src/adapters/signed-paper";
import { paperChecks } from "../src/adapters/paper-checks";
import { PDFDocument } from "pdf-lib";
import { signedText, textDigest, type ReadBlock } from "../src/core/signing";
import { emptyQuestionnaire, noAnswers } from "../src/core/questionnaire";
import { instant } from "../src/core/shared";
import { ms, printTable, quantile } from "./support";

const at = instant("2026-11-25T08:10:00Z");
const sentence =
  "What is said stays between us, and what we write down is kept where only those can read it who have to. ";
/** About ten pages of text, questions and answers, with three signatures. */
function paperOf(round: number): SignedPaper {
  const blocks: ReadBlock[] = Array.from({ length: 60 }, (_, index): ReadBlock =>
    index % 3 === 0
      ? { kind: "text", text: `${index}. ${sentence.repeat(4)}` }
      : { kind: "answer", question: `Question ${index}?`, answer: `${sentence}${round}` },
  );
  const read = signedText(emptyQuestionnaire("urn:a", "Working together", "consent", "x"), noAnswers, "", "en");
  const signatures = ["Hugo Lindgren", "Greta Lund", "Maren Holloway"].map((signer, index) => ({
    id: `s${index}`,
    place: "",
    statement: { ...read, textDigest: textDigest(read), signer, mark: { kind: "typed", name: signer } as const, at },
    digest: "0".repeat(64),
    address: "192.0.2.7",
    device: "bench",
    evidence: undefined,
    journal: index,
  }));
  return {
    practice: "Fernhollow Care Rooms",
    address: "",
    logo: undefined,
    language: "en",
    locale: "en-GB",
    zone: "Europe/London",
    title: "Working together",
    version: "1",
    client: "Hugo Lindgren",
    birthDate: undefined,
    returnedAt: at,
    reference: "bench",
    madeAt: at,
    readings: [{ language: "en", title: "Working together", blocks }],
    signatures,
    talk: [],
  };
}
/** Making a sealed paper of ten pages beside making the same unsealed, and a hundred of them in a row. */
async function sealing(): Promise<void> {
  const [identity, stamps] = [await makeIdentity("Bench", "seal", at), await makeIdentity("Bench", "time-stamp", at)];
  const order = { identity, stamp: ownTimeStamps(stamps, at), name: "Bench", reason: "Bench", at };
  const plain: number[] = [];
  const sealed: number[] = [];
  let pages = 0;
  for (let round = -3; round < 10; round++) {
    let began = performance.now();
    const pdf = await renderSignedPaper(paperOf(round));
    const drawn = performance.now() - began;
    began = performance.now();
    const done = await sealPdf(await renderSignedPaper(paperOf(round)), order);
    if (round < 0) continue;
    plain.push(drawn);
    sealed.push(performance.now() - began);
    pages = (await PDFDocument.load(pdf)).getPageCount();
    const look = await paperChecks.look(done);
    if (!look.ok || !look.value.seals[0]?.intact) throw new Error("What was sealed does not hold.");
  }
  plain.sort((a, b) => a - b);
  sealed.sort((a, b) => a - b);
  const began = performance.now();
  for (let one = 0; one < 100; one++) await sealPdf(await renderSignedPaper(paperOf(one)), order);
  const hundred = performance.now() - began;
  const [less, more] = [quantile(plain, 0.5), quantile(sealed, 0.5)];
  printTable([
    [`a sealed paper of ${pages} pages`, ms(more), `${ms(less)} unsealed`, (more / less).toFixed(2), "at most 2"],
    ["100 of them in a row", `${(hundred / 1000).toFixed(1)} s`, `${(hundred / 100).toFixed(0)} ms each`, "", ""],
  ]);
}
await sealing();
