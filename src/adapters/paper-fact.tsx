import { View } from "@react-pdf/renderer";
import { styles } from "./paper-style";
import { Words } from "./paper-words";

/** A fact of a paper, its name in the margin. */
export function Fact({ name, value }: { readonly name: string; readonly value: string }) {
  return (
    <View style={{ flexDirection: "row" }}>
      <Words style={styles.margin}>{name}</Words>
      <Words style={{ width: "72%" }}>{value}</Words>
    </View>
  );
}
