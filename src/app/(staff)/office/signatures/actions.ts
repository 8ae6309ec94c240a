"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";
import { bytesOf } from "../../../_server/sent-file";

export async function confirmAction(): Promise<FormState> {
  const result = await runAsStaff(useCases.confirmSigning, { accepted: true });
  if (!result.ok) return formFailure(result.error);
  refresh();
  return {};
}
export async function mailsPapersAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.setMailsPapers, { mailsPapers: sent.get("mailsPapers") === "yes" });
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Kept." };
}
export async function bringAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.bringCertificate, {
    bytes: await bytesOf(sent, "file"),
    password: sent.get("password"),
  });
  if (!result.ok)
    return formFailure(result.error, {
      "not-pkcs12": "This is no PKCS #12 file. What was there stays.",
      "wrong-password": "This password does not open the file. What was there stays.",
      "old-encryption":
        "The file is protected in a way that is no longer safe. Make it anew with OpenSSL 3, without -legacy. What was there stays.",
      "no-key": "There is no certificate in it whose key is there too. What was there stays.",
      ended: "This certificate is not valid today. What was there stays.",
      "too-costly": "Reading this file takes too much work. What was there stays.",
    });
  refresh();
  return { done: `Papers are sealed as “${result.value.subject}” from now on.` };
}
