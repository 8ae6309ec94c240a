import type { Metadata } from "next";
import { OpenView } from "./open-view";

export const metadata: Metadata = { title: "Open a colleague’s client" };
export default function OpenPage() {
  return <OpenView />;
}
