import { Link, View } from "@react-pdf/renderer";
import { measureWords, type NoteLine, type Run } from "../core/notes";
import { styles } from "./paper-style";
import { Words } from "./paper-words";
import { left, renderReadingPaper, type ReadingPaper } from "./reading-paper";

/** A note as a paper. */
export interface NotePaper extends ReadingPaper {
  /** About which visit, signed by whom. */
  readonly facts: readonly string[];
  readonly lines: readonly NoteLine[];
}
/** One indent of a list, in points. */
const indent = 14;

export const renderNotePaper = (paper: NotePaper): Promise<Uint8Array<ArrayBuffer>> =>
  renderReadingPaper(
    paper,
    paper.facts,
    paper.lines.map((line, index) => <OneLine key={index} line={line} />),
  );
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
