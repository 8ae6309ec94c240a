import { useCases } from "@/server";
import { csvFile } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly importId: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.refusedRows, await params);
  return csvFile(result.ok ? result.value : undefined, "refused-lines.csv");
}
