import { renderBlankPaper, useCases } from "@/server";
import { attachment } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly id: string }> },
): Promise<Response> {
  const result = await runAsStaff(useCases.blankPaper, await params);
  if (!result.ok) return new Response(null, { status: 404 });
  return new Response(await renderBlankPaper(result.value), {
    headers: { "content-type": "application/pdf", ...attachment("blank.pdf") },
  });
}
