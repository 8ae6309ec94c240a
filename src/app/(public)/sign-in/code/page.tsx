import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import { halfwayCookie, readCookie } from "../../../_server/request";
import { runAsStranger } from "../../../_server/run";
import { CodeForm } from "./code-form";

export const metadata: Metadata = { title: "Sign in" };
export default async function CodePage() {
  const token = await readCookie(halfwayCookie);
  const ways = token === undefined ? undefined : await runAsStranger(useCases.secondWays, { token });
  if (!ways?.ok) redirect("/sign-in");
  return <CodeForm {...ways.value} />;
}
