import { renderNotePaper, useCases } from "@/server";
import { attachment } from "../../../../_server/files";
import { runAsStaff } from "../../../../_server/run";

/** A note as `pdf`, `markdown` or `fhir`. */
export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly noteId: string; readonly form: string }> },
): Promise<Response> {
  const { noteId, form } = await params;
  if (!["pdf", "markdown", "fhir"].includes(form)) return new Response(null, { status: 404 });
  const result = await runAsStaff(useCases.takeOutNote, { noteId });
  if (!result.ok) return new Response(null, { status: 404 });
  const { name, paper, markdown, fhir } = result.value;
  if (form === "pdf")
    return new Response(await renderNotePaper(paper), {
      headers: { "content-type": "application/pdf", ...attachment(`${name}.pdf`) },
    });
  if (form === "markdown")
    return new Response(markdown, {
      headers: { "content-type": "text/markdown; charset=utf-8", ...attachment(`${name}.md`) },
    });
  return new Response(JSON.stringify(fhir, null, 2), {
    headers: { "content-type": "application/fhir+json; charset=utf-8", ...attachment(`${name}.json`) },
  });
}
