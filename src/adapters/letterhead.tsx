import { Image, View } from "@react-pdf/renderer";
import { Words } from "./paper-words";
import { styles } from "./paper-style";

/** Whose paper it is. */
export interface LetterheadFacts {
  readonly practice: string;
  /** On one line; empty where the practice gave none. */
  readonly address: string;
  readonly logo: { readonly format: "png" | "jpg"; readonly bytes: Uint8Array } | undefined;
}
type Side = Parameters<typeof Words>[0]["style"];
/** At the head of every paper: logo, name and address. @param side which way the paper runs */
export function Letterhead({
  paper: { practice, address, logo },
  side,
}: {
  readonly paper: LetterheadFacts;
  readonly side?: Side;
}) {
  return (
    <View>
      {logo && (
        <Image
          src={{ data: Buffer.from(logo.bytes), format: logo.format }}
          style={{ height: 34, maxWidth: 160, objectFit: "contain", objectPosition: "left", marginBottom: 6 }}
        />
      )}
      <Words style={{ ...styles.practice, ...side }}>{practice}</Words>
      {address !== "" && <Words style={{ ...styles.address, ...side }}>{address}</Words>}
    </View>
  );
}
