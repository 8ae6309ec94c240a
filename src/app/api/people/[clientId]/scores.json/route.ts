import { useCases } from "@/server";
import { attachment } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly clientId: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.scoresFhir, await params);
  if (!result.ok) return new Response(null, { status: 404 });
  return new Response(JSON.stringify(result.value.bundle, null, 2), {
    headers: { "content-type": "application/fhir+json; charset=utf-8", ...attachment(`${result.value.name}.json`) },
  });
}
