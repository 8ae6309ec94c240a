import { renderRecordPaper, useCases } from "@/server";
import { attachment } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

/** `?on=`: the day as it was on which it is wanted. */
export async function GET(
  request: Request,
  { params }: { readonly params: Promise<{ readonly clientId: string }> },
): Promise<Response> {
  const on = new URL(request.url).searchParams.get("on") ?? undefined;
  const result = await runAsStaff(useCases.chartPaper, { ...(await params), on });
  if (!result.ok) return new Response(null, { status: 404 });
  return new Response(await renderRecordPaper(result.value), {
    headers: { "content-type": "application/pdf", ...attachment(`${result.value.title}.pdf`) },
  });
}
