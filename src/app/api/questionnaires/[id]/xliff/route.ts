import { useCases } from "@/server";
import { attachment } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  request: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.exportXliff, {
    ...(await params),
    language: new URL(request.url).searchParams.get("in"),
  });
  if (!result.ok) return new Response(null, { status: 404 });
  return new Response(result.value.xliff, {
    headers: {
      "content-type": "application/xliff+xml; charset=utf-8",
      ...attachment(`translation-${result.value.language}.xlf`),
    },
  });
}
