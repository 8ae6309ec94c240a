import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { application } from "@/server";
import { countryOptions } from "@/i18n/countries";
import { SetUpForm } from "./set-up-form";

export const metadata: Metadata = { title: "Set up the practice" };
export default async function SetUpPage() {
  if (await (await application()).practice()) redirect("/sign-in");
  return <SetUpForm countries={countryOptions()} />;
}
