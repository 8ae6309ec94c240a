import { Document, Page, renderToBuffer, View } from "@react-pdf/renderer";
import type { SheetBox } from "../core/questionnaire";
import type { SignedStatement } from "../core/signing";
import { Mark } from "./paper-mark";
import { registerFonts, styles } from "./paper-style";
import { Words } from "./paper-words";

/** What is drawn into a box of somebody's PDF: a signature with when it was given, or an answer. */
export type SheetMark = { readonly box: SheetBox } & (
  { readonly statement: SignedStatement; readonly when: string } | { readonly text: string }
);

/** A page for each box, of its size and without a ground, to be laid upon the sheet. */
export async function renderSheetMarks(marks: readonly SheetMark[]): Promise<Uint8Array> {
  await registerFonts();
  const drawn = await renderToBuffer(
    <Document producer="Kind Ledger" creator="Kind Ledger">
      {marks.map((mark, index) => (
        <Page
          key={index}
          size={[mark.box.width, mark.box.height]}
          wrap={false}
          style={{ ...styles.page, padding: 0, overflow: "hidden" }}
        >
          {"text" in mark ? <Answer {...mark} /> : <Signature {...mark} />}
        </Page>
      ))}
    </Document>,
  );
  return new Uint8Array(drawn);
}
function Answer({ box, text }: { readonly box: SheetBox; readonly text: string }) {
  return (
    <View style={{ paddingHorizontal: 2, justifyContent: "center", height: "100%" }}>
      <Words style={{ fontSize: Math.max(4, Math.min(10, box.height * 0.6)), lineHeight: 1.15 }}>{text}</Words>
    </View>
  );
}
/** The mark, and below it who signed and when, as small as the box asks. */
function Signature({
  box,
  statement,
  when,
}: {
  readonly box: SheetBox;
  readonly statement: SignedStatement;
  readonly when: string;
}) {
  const small = Math.max(3.5, Math.min(7, box.height * 0.2));
  // As wide as it is drawn at most, so that nothing of it is cut off.
  const high = Math.max(4, Math.min(box.height - small * 1.4, box.width / 3.5));
  return (
    <View style={{ height: "100%", justifyContent: "flex-end" }}>
      <Mark statement={statement} height={high} />
      <Words style={{ ...styles.soft, fontSize: small, lineHeight: 1.2 }}>{`${statement.signer}, ${when}`}</Words>
    </View>
  );
}
