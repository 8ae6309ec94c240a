import { useCases } from "@/server";
import { attachment } from "../../_server/files";
import { runAsStaff } from "../../_server/run";

export async function GET(): Promise<Response> {
  const result = await runAsStaff(useCases.consentsTable, {});
  if (!result.ok) return new Response(null, { status: 404 });
  return new Response(`\uFEFF${result.value}`, {
    headers: { "content-type": "text/csv; charset=utf-8", ...attachment("consents.csv") },
  });
}
