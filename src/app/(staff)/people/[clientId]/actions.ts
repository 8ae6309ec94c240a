"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export async function reverseAction(_: FormState, sent: FormData): Promise<FormState> {
  const clientId = sent.get("clientId");
  const result = await runAsStaff(useCases.reverse, {
    clientId,
    postingId: sent.get("postingId"),
    requestId: sent.get("requestId"),
    reason: sent.get("reason") ?? "",
    ...(sent.has("entry") ? { entry: Number(sent.get("entry")) } : {}),
  });
  if (!result.ok) return formFailure(result.error, { "already-reversed": "This was reversed already." });
  redirect(`/people/${String(clientId)}`);
}

/** What staff write in one field or row. Columns of a row come as `cell <key>`. */
export async function writeInChartAction(_: FormState, sent: FormData): Promise<FormState> {
  const all = Object.fromEntries(sent) as Record<string, string>;
  const cells = Object.fromEntries(
    Object.entries(all).flatMap(([name, value]) =>
      name.startsWith("cell ") ? [[name.slice("cell ".length), value]] : [],
    ),
  );
  const result = await runAsStaff(useCases.writeInChart, {
    clientId: all["clientId"],
    requestId: all["requestId"],
    seen: Number(all["seen"]),
    field: all["field"],
    reason: all["reason"] ?? "",
    ...(all["row"] ? { row: all["row"] } : {}),
    ...(all["value"] === undefined ? {} : { value: all["value"] }),
    ...(Object.keys(cells).length > 0 ? { cells } : {}),
  });
  if (!result.ok)
    return formFailure(result.error, {
      "chart-moved": "Somebody changed this meanwhile. Look at it again; nothing was written.",
    });
  redirect(`/people/${all["clientId"]!}`);
}
