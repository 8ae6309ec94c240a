import { View } from "@react-pdf/renderer";
import { styles } from "./paper-style";
import { Words } from "./paper-words";
import { left, renderReadingPaper, type ReadingPaper } from "./reading-paper";

/** What is known of somebody: all of it, or their chart. */
export interface RecordPaper extends ReadingPaper {
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
export const renderRecordPaper = (paper: RecordPaper): Promise<Uint8Array<ArrayBuffer>> =>
  renderReadingPaper(
    paper,
    [],
    paper.sections.map((section) => (
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
    )),
  );
