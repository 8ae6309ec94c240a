import { useCases } from "@/server";
import { attachment } from "../../_server/files";
import { runAsStaff } from "../../_server/run";

/** The journal, or the rows of it that are asked for, as a table that is written while it is read. */
export async function GET(request: Request): Promise<Response> {
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  const first = await runAsStaff(useCases.journalTable, { ...asked, before: undefined });
  if (!first.ok) return new Response(null, { status: 404 });
  const encoder = new TextEncoder();
  let { before } = first.value;
  let pending: string | undefined = `\uFEFF${first.value.table}`;
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      if (pending !== undefined) {
        controller.enqueue(encoder.encode(pending));
        pending = undefined;
        return;
      }
      if (before === undefined) return controller.close();
      const next = await runAsStaff(useCases.journalTable, { ...asked, before });
      // A file that stops in the middle must not look like a whole one.
      if (!next.ok) return controller.error(new Error("The journal could not be read to its end."));
      before = next.value.before;
      controller.enqueue(encoder.encode(next.value.table));
    },
  });
  return new Response(stream, {
    headers: { "content-type": "text/csv; charset=utf-8", ...attachment("journal.csv") },
  });
}
