import { Image, Path, Svg } from "@react-pdf/renderer";
import type { SignedStatement } from "../core/signing";
import { ink, styles } from "./paper-style";
import { Words } from "./paper-words";

/** How somebody signed, as it is drawn on paper. @param height in points; its usual size where it is not said */
export function Mark({
  statement: { mark, signer },
  height,
}: {
  readonly statement: Pick<SignedStatement, "mark" | "signer">;
  readonly height?: number;
}) {
  const typed = height === undefined ? styles.typed : { ...styles.typed, fontSize: height * 0.62, marginVertical: 0 };
  switch (mark.kind) {
    case "drawn":
      return (
        <Svg viewBox="0 0 600 200" style={{ width: 3 * (height ?? 60), height: height ?? 60 }}>
          <Path d={mark.path} stroke={ink} strokeWidth={4} fill="none" />
        </Svg>
      );
    case "picture":
      return (
        <Image
          src={{ data: Buffer.from(mark.png, "base64"), format: "png" }}
          style={{ height: height ?? 52, maxWidth: 3.5 * (height ?? 52), objectFit: "contain" }}
        />
      );
    case "paper":
      return <Words style={styles.soft}>{`Signed by hand on a sheet the practice keeps: ${signer}`}</Words>;
    case "ticked":
      return <Words style={typed}>{`[x] ${signer}`}</Words>;
    case "typed":
      return <Words style={typed}>{signer}</Words>;
  }
}
