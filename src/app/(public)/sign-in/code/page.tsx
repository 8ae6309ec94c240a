import type { Metadata } from "next";
import { CodeForm } from "../sign-in-form";

export const metadata: Metadata = { title: "Sign in" };
export default function CodePage() {
  return <CodeForm />;
}
