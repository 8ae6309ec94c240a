import type { Metadata } from "next";
import { CheckView } from "./check-view";

export const metadata: Metadata = { title: "Check a paper" };
export default function CheckPage() {
  return <CheckView />;
}
