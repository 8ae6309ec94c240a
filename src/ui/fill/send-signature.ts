import type { Instant } from "@/core/shared";
import type { FillServer } from "./fill-server";

/** Sends a signature to where it belongs, and says what became of it. */
export async function sendSignature(address: string, body: object): ReturnType<FillServer["sign"]> {
  const response = await fetch(address, { method: "POST", body: JSON.stringify(body) }).catch(() => undefined);
  if (response?.ok) return { kind: "signed", at: ((await response.json()) as { at: Instant }).at };
  if (response?.status !== 422) return { kind: "no-reply" };
  const { reason } = (await response.json()) as { readonly reason?: string };
  return { kind: reason === "changed" || reason === "not-your-turn" ? reason : "incomplete" };
}
/** What is left of a picture when all but the signature is cut away: PNG in base64; undefined where there is none. */
export async function cutSignature(address: string, picture: File): Promise<string | undefined> {
  const response = await fetch(address, { method: "PUT", body: picture }).catch(() => undefined);
  return response?.ok ? ((await response.json()) as { png: string }).png : undefined;
}
