import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { application, useCases } from "@/server";
import { runAsStranger } from "../../_server/run";
import { SignInForm } from "./sign-in-form";

export const metadata: Metadata = { title: "Sign in" };
export default async function SignInPage() {
  if (!(await (await application()).practice())) redirect("/set-up");
  const demo = await runAsStranger(useCases.demoPeople, {});
  return <SignInForm demo={demo.ok ? demo.value : []} />;
}
