import { useCases } from "@/server";
import { givenFile } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.librarySheet, await params);
  return givenFile(result.ok ? { ...result.value, contentType: "application/pdf" } : undefined);
}
