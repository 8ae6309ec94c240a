import { useCases } from "@/server";
import { fhirFile } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.handOff, await params);
  return fhirFile(result.ok ? result.value : undefined, "questionnaire-all-versions.json");
}
