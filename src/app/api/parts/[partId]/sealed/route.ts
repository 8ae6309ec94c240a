import { useCases } from "@/server";
import { givenFile } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly partId: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.openPaper, await params);
  return givenFile(result.ok ? { ...result.value, contentType: "application/pdf" } : undefined);
}
