import { application, packEverything, type Packed } from "@/server";
import { attachment } from "../../../../_server/files";
import { staffOrNobody } from "../../../../_server/request";

interface Params {
  readonly params: Promise<{ readonly clientId: string }>;
}
/**
 * One client's everything, written while it is made. With `?progress` each piece comes behind its kind (0: how far it is,
 * as JSON; 1: bytes of the file) and its length in four bytes, so that a page can say how far it is.
 */
export async function GET(request: Request, { params }: Params): Promise<Response> {
  const actor = await staffOrNobody();
  if (!actor) return new Response(null, { status: 401 });
  const packed = await packEverything(await application(), actor, (await params).clientId);
  if (!packed.ok) return new Response(null, { status: 404 });
  const { pieces } = packed.value;
  const isTold = new URL(request.url).searchParams.has("progress");
  const encoder = new TextEncoder();
  const framed = (piece: Packed): Uint8Array => {
    const body = "bytes" in piece ? piece.bytes : encoder.encode(JSON.stringify(piece));
    const whole = new Uint8Array(5 + body.length);
    whole[0] = "bytes" in piece ? 1 : 0;
    new DataView(whole.buffer).setUint32(1, body.length);
    whole.set(body, 5);
    return whole;
  };
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      for (;;) {
        const next = await pieces.next();
        if (next.done) return controller.close();
        if (isTold) return controller.enqueue(framed(next.value));
        if ("bytes" in next.value) return controller.enqueue(next.value.bytes);
      }
    },
    async cancel() {
      await pieces.return(undefined);
    },
  });
  return new Response(stream, {
    headers: {
      "content-type": isTold ? "application/octet-stream" : "application/zip",
      "cache-control": "no-store",
      ...(isTold ? {} : attachment("everything.zip")),
    },
  });
}
