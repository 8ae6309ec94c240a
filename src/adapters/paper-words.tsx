import { Text, type TextProps } from "@react-pdf/renderer";
import { writtenDirection } from "../core/shared";

type Style = Exclude<NonNullable<TextProps["style"]>, readonly unknown[]>;
/**
 * Text that runs as it is written: in Arabic or Hebrew from the right, with numbers and Latin words in their own order.
 */
export function Words({ children, style = {} }: { readonly children: string; readonly style?: Style }) {
  const rtl = writtenDirection(children) === "rtl";
  return <Text style={rtl ? { ...style, direction: "rtl", textAlign: "right" } : style}>{children}</Text>;
}
