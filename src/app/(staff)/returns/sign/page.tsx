import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staff } from "../../../_server/run";
import { SignQueue } from "./sign-queue";

export const metadata: Metadata = { title: "For you to sign" };
export default async function SignPage({
  searchParams,
}: {
  readonly searchParams: Promise<Readonly<Record<string, string | undefined>>>;
}) {
  const { name } = await staff();
  const { part } = await searchParams;
  return <SignQueue view={await load(useCases.forYouToSign, {})} name={name} first={part} />;
}
