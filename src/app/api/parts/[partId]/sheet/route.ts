import { fillSheet, useCases } from "@/server";
import { givenFile } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly partId: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.filledSheet, await params);
  const bytes = result.ok ? await fillSheet(result.value) : undefined;
  return givenFile(
    result.ok && bytes ? { title: result.value.title, contentType: "application/pdf", bytes } : undefined,
  );
}
