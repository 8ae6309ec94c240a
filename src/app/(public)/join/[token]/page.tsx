import type { Metadata } from "next";
import { useCases } from "@/server";
import { runAsStranger } from "../../../_server/run";
import { ChoosePassword, LinkOver } from "./choose-password";

export const metadata: Metadata = { title: "Choose your password" };
export default async function JoinPage({ params }: { readonly params: Promise<{ readonly token: string }> }) {
  const { token } = await params;
  const ticket = await runAsStranger(useCases.openTicket, { token });
  return ticket.ok ? <ChoosePassword ticket={ticket.value} token={token} /> : <LinkOver />;
}
