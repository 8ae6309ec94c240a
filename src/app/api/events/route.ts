import { application, sessionHolds } from "@/server";
import { currentStaff } from "../../_server/request";

/** In ms: how often a stream says that it is there, and asks whether its session is. */
const beatMs = 10_000;
/** A browser with as many tabs as this is no person's; further pages do without being told of changes. */
const mostOfSession = 12;
const open = new Map<string, number>();
const count = (session: string, by: 1 | -1): void => {
  const now = (open.get(session) ?? 0) + by;
  if (now > 0) open.set(session, now);
  else open.delete(session);
};

/**
 * Server-sent events for staff pages: that something changed, never what; for as long as the session that asked holds.
 */
export async function GET(request: Request): Promise<Response> {
  const staff = await currentStaff(false);
  if (staff.kind !== "staff") return new Response(null, { status: 401 });
  const session = staff.sessionDigest;
  const app = await application();
  // From here to the count inside nothing waits, so that many at once are counted too.
  if ((open.get(session) ?? 0) >= mostOfSession) return new Response(null, { status: 429 });
  const encoder = new TextEncoder();
  let stop: (() => void) | undefined;
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      count(session, 1);
      const say = async (text: string): Promise<void> => {
        try {
          if (!(await sessionHolds(app, session))) throw new Error("Signed out.");
          controller.enqueue(encoder.encode(text));
        } catch {
          stop?.();
        }
      };
      controller.enqueue(encoder.encode("retry: 2000\n\n"));
      const unlisten = await app.database.listen("returns", () => void say("event: returns\ndata: changed\n\n"));
      const beat = setInterval(() => void say(": still here\n\n"), beatMs);
      stop = () => {
        stop = undefined;
        count(session, -1);
        clearInterval(beat);
        void unlisten().catch(() => undefined);
        try {
          controller.close();
        } catch {
          // Whoever listened closed it before.
        }
      };
      if (request.signal.aborted) stop();
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
