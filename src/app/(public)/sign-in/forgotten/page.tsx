import type { Metadata } from "next";
import { ForgottenForm } from "./forgotten-form";

export const metadata: Metadata = { title: "Forgotten password" };
export default function ForgottenPage() {
  return <ForgottenForm />;
}
