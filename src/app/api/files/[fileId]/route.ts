import { useCases } from "@/server";
import { givenFile } from "../../../_server/files";
import { runAsStaff } from "../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly fileId: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.openFile, await params);
  return givenFile(result.ok ? { ...result.value.file, bytes: result.value.bytes } : undefined);
}
