"use client";
import type { AnswerChange } from "@/core/questionnaire";
import type { Id } from "@/core/shared";

/** A change the server has not confirmed, and the revision it was made on. */
export interface Edit {
  readonly partId: Id<"Part">;
  readonly change: AnswerChange;
  readonly base: number;
}
export interface KeptEdits {
  /** Keeps these and no others. Nothing of them lies in the browser in clear. */
  write(edits: readonly Edit[]): void;
  read(): Promise<readonly Edit[]>;
}
const bytesOf = (base64url: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(atob(base64url.replace(/-/g, "+").replace(/_/g, "/")), (c) => c.charCodeAt(0));
const nonceBytes = 12;

/**
 * Holds unsaved answers in this browser through a closed tab, encrypted (AES-256-GCM) with a key that only a passed
 * door check gives; who has the device but not the door sees nothing. Undefined where the browser cannot (no secure
 * context, storage refused): then they live as long as the page.
 * @param key 32 bytes in base64url.
 */
export function keptEdits(name: string, key: string): KeptEdits | undefined {
  if (typeof window === "undefined" || !window.isSecureContext) return undefined;
  const place = `kind-ledger ${name}`;
  const storage = storageOf();
  if (!storage) return undefined;
  const cryptoKey = crypto.subtle.importKey("raw", bytesOf(key), "AES-GCM", false, ["encrypt", "decrypt"]);
  const additionalData = new TextEncoder().encode(place);
  let newest = 0;
  return {
    write(edits) {
      const own = ++newest;
      if (edits.length === 0) return storage.removeItem(place);
      void (async () => {
        const iv = crypto.getRandomValues(new Uint8Array(nonceBytes));
        const sealed = new Uint8Array(
          await crypto.subtle.encrypt(
            { name: "AES-GCM", iv, additionalData },
            await cryptoKey,
            new TextEncoder().encode(JSON.stringify(edits)),
          ),
        );
        if (own === newest)
          storage.setItem(place, btoa(Array.from([...iv, ...sealed], (b) => String.fromCharCode(b)).join("")));
      })().catch(() => undefined);
    },
    async read() {
      const text = storage.getItem(place);
      if (text === null) return [];
      try {
        const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
        const open = await crypto.subtle.decrypt(
          { name: "AES-GCM", iv: bytes.slice(0, nonceBytes), additionalData },
          await cryptoKey,
          bytes.slice(nonceBytes),
        );
        return JSON.parse(new TextDecoder().decode(open)) as readonly Edit[];
      } catch {
        // Damaged, or of a key that is gone: of no use to anybody.
        storage.removeItem(place);
        return [];
      }
    },
  };
}
function storageOf(): Storage | undefined {
  try {
    return window.localStorage;
  } catch {
    return undefined;
  }
}
