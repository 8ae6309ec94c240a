import { application } from "@/server";
import { currentStaff } from "../../_server/request";

/** Server-sent events for staff pages: that something changed, never what. */
export async function GET(request: Request): Promise<Response> {
  if ((await currentStaff()).kind !== "staff") return new Response(null, { status: 401 });
  const app = await application();
  const encoder = new TextEncoder();
  let stop: (() => void) | undefined;
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (text: string): void => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          stop?.();
        }
      };
      say("retry: 2000\n\n");
      const unlisten = await app.database.listen("returns", () => say("event: returns\ndata: changed\n\n"));
      const beat = setInterval(() => say(": still here\n\n"), 25_000);
      stop = () => {
        stop = undefined;
        clearInterval(beat);
        void unlisten().catch(() => undefined);
      };
      request.signal.addEventListener("abort", () => stop?.());
    },
    cancel() {
      stop?.();
    },
  });
  return new Response(stream, {
    headers: { "content-type": "text/event-stream", "cache-control": "no-store", "x-accel-buffering": "no" },
  });
}
