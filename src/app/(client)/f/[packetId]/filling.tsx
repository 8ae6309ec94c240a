"use client";
import { useRouter } from "next/navigation";
import { useCallback, useMemo, useRef, useState } from "react";
import type { FileProblem } from "@/core/files";
import { isOpen, type PacketState } from "@/core/packet";
import type { FileValue } from "@/core/questionnaire";
import type { Id, Instant } from "@/core/shared";
import { cutSignature, sendSignature } from "@/ui/fill/send-signature";
import { FillApp, type FillAppProps } from "@/ui/fill/fill-app";
import { keptEdits } from "@/ui/fill/kept-edits";
import { shutAction } from "./actions";
import type { ChangesSince, Saved } from "@/ui/fill/answer-sync";
import type { FillServer, PacketView } from "@/ui/fill/fill-server";
import type { FillView, Returned } from "@/usecases/filling";
import { HandedThanks } from "./handed-thanks";

const mostKeptAlive = 60_000;
const parsed = (text: string): unknown => {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
};
/** `unanswered`: the ids of files whose reply was lost, so that none is kept twice. */
function sendFile(
  packetId: string,
  unanswered: Map<string, string>,
  ...[partId, key, file, told, stop]: Parameters<FillServer["upload"]>
): ReturnType<FillServer["upload"]> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest();
    const mark = JSON.stringify([partId, key, file.name, file.size, file.lastModified]);
    const id = unanswered.get(mark) ?? crypto.randomUUID();
    unanswered.set(mark, id);
    request.open("PUT", `/f/${packetId}/files?part=${partId}&id=${id}`);
    request.setRequestHeader("x-file-name", encodeURIComponent(file.name));
    request.setRequestHeader("x-answer-key", encodeURIComponent(key));
    request.upload.onprogress = (e) => {
      if (e.lengthComputable) told(Math.min(99, Math.floor((e.loaded / e.total) * 100)));
    };
    request.onload = () => {
      const answer = parsed(request.responseText) as FileValue | { readonly why?: FileProblem } | undefined;
      if (request.status < 500) unanswered.delete(mark);
      if (request.status === 200 && answer && "id" in answer) resolve({ kind: "kept", value: answer });
      else
        resolve(answer && "why" in answer && answer.why ? { kind: "refused", why: answer.why } : { kind: "no-reply" });
    };
    request.onerror = () => resolve({ kind: "no-reply" });
    request.onabort = () => resolve({ kind: "stopped" });
    stop.addEventListener("abort", () => request.abort());
    request.send(file);
  });
}
/** The client's page on the practice's server. */
export function FillPage({
  packetId,
  words,
  view,
  firstStep,
}: Pick<FillAppProps, "words" | "firstStep"> & {
  readonly packetId: Id<"Packet">;
  readonly view: PacketView & Pick<FillView, "keepAs" | "keepKey" | "handedOver" | "finish">;
}) {
  const router = useRouter();
  const unanswered = useRef(new Map<string, string>());
  const [returned, setReturned] = useState<Pick<Returned, "alarming">>();
  /** It was sent, and no reply came. */
  const asked = useRef(false);
  const server = useMemo(
    (): FillServer => ({
      async save(partId, changes) {
        const body = JSON.stringify({ partId, changes: changes.map(({ change, base }) => ({ ...change, base })) });
        const response = await fetch(`/f/${packetId}/answers`, {
          method: "PUT",
          body,
          // What outlives its page may be 64 kB in all (Fetch standard); a longer text goes the ordinary way.
          keepalive: new TextEncoder().encode(body).length < mostKeptAlive,
        });
        if (response.ok) {
          const { savedAt, kept, clashes } = (await response.json()) as { savedAt: Instant } & Pick<
            Saved,
            "kept" | "clashes"
          >;
          return { kind: "saved", at: savedAt, kept, clashes };
        }
        return { kind: response.status >= 500 || response.status === 429 ? "again" : "stop" };
      },
      async changesSince(since) {
        const response = await fetch(`/f/${packetId}/changes?since=${since}`);
        // The door is shut: withdrawn, replaced, or too long ago. What is unsaved waits in this browser.
        if (response.status === 401) return { version: since, parts: [], over: true };
        if (!response.ok) return undefined;
        const { state, ...found } = (await response.json()) as Omit<ChangesSince, "over"> & { state: PacketState };
        return { ...found, over: !isOpen(state) };
      },
      // On a device that goes from hand to hand nothing is left behind.
      keep: view.role === "fills" && !view.handedOver ? keptEdits(view.keepAs, view.keepKey) : undefined,
      keepCleared:
        view.role === "fills" && !view.handedOver ? keptEdits(`${view.keepAs} cleared`, view.keepKey) : undefined,
      leaflet: (id) => `/f/${packetId}/leaflet/${id}`,
      sign: (partId, made) => sendSignature(`/f/${packetId}/sign`, { partId, ...made }),
      cut: (picture) => cutSignature(`/f/${packetId}/picture`, picture),
      ...(view.handedOver
        ? {}
        : {
            async askPaper(partId: Id<"Part">, place: string) {
              const response = await fetch(`/f/${packetId}/on-paper`, {
                method: "POST",
                body: JSON.stringify({ partId, place }),
              }).catch(() => undefined);
              return response?.ok === true;
            },
          }),
      async submit(comment) {
        const response = await fetch(`/f/${packetId}/return`, {
          method: "POST",
          body: JSON.stringify({ comment }),
        }).catch(() => undefined);
        if (view.handedOver) {
          // Its pass ended with the return, so nothing of it is asked for again; a reply that was lost came all the
          // same.
          const done = response?.ok ? ((await response.json()) as Pick<Returned, "alarming">) : undefined;
          const came = done ?? (response?.status === 401 && asked.current ? { alarming: true } : undefined);
          if (!response) asked.current = true;
          if (came) {
            setReturned(came);
            return true;
          }
        }
        // The server says what comes now: the thank-you page, or why it is closed.
        const over = response?.ok === true || response?.status === 409;
        if (over) router.refresh();
        return over;
      },
      ...(view.handedOver
        ? {
            leave: async () => {
              await shutAction(packetId);
              router.replace("/sign-in");
            },
          }
        : { paper: `/f/${packetId}/paper`, copy: `/f/${packetId}/copy` }),
      async chooseLanguage(language) {
        const response = await fetch(`/f/${packetId}/language`, {
          method: "POST",
          body: JSON.stringify({ language }),
        }).catch(() => undefined);
        if (response?.ok) window.location.reload();
      },
      async stay() {
        const response = await fetch(`/f/${packetId}/stay`, { method: "POST", body: "{}" }).catch(() => undefined);
        return response?.ok ? ((await response.json()) as { passUntil: Instant }).passUntil : undefined;
      },
      sheet: (partId) => `/f/${packetId}/sheet/${partId}`,
      upload: (...given) => sendFile(packetId, unanswered.current, ...given),
    }),
    [packetId, router, view.role, view.handedOver, view.keepAs, view.keepKey],
  );
  const over = useCallback(() => router.refresh(), [router]);
  if (returned) return <HandedThanks words={words} view={view} alarming={returned.alarming} />;
  return <FillApp words={words} server={server} view={view} firstStep={firstStep} onOver={over} />;
}
