import { useCases } from "@/server";
import { fhirFile } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly partId: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.exportPart, await params);
  return fhirFile(result.ok ? result.value.fhir : undefined, "response.json");
}
