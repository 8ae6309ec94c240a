import { renderPaper, useCases } from "@/server";
import { attachment } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly partId: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.exportPart, await params);
  if (!result.ok) return new Response(null, { status: 404 });
  return new Response(await renderPaper(result.value.paper), {
    headers: { "content-type": "application/pdf", ...attachment("answers.pdf") },
  });
}
