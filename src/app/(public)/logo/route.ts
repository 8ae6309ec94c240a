import { useCases } from "@/server";
import { runAsStranger } from "../../_server/run";

/** The practice's own picture, for whoever opens a page of the practice's. */
export async function GET(): Promise<Response> {
  const result = await runAsStranger(useCases.practiceLogo, {});
  if (!result.ok) return new Response(null, { status: 404 });
  const { contentType, bytes } = result.value;
  return new Response(new Uint8Array(bytes), {
    headers: { "content-type": contentType, "x-content-type-options": "nosniff" },
  });
}
