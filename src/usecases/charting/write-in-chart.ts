import { mixed, number, object, string } from "yup";
import { fieldByKey, foldChart, type EntryChange, type RowValue } from "../../core/chart";
import { isDay } from "../../core/scheduling";
import { fail, ok, type Result } from "../../core/shared";
import { appendToChart, command, fieldsOf, idInput, notFound, requestInput, type CommonError } from "../kit";
import { isRow } from "./schemas";

export type WriteError = CommonError | { readonly reason: "chart-moved" };

/**
 * What staff write in the chart by themselves, as an entry like any other: a value, a row, or that a row ended. What says
 * who somebody is and how to reach them is changed with their details, and not here.
 */
export const writeInChart = command({
  name: "write-in-chart",
  access: "chart.post",
  input: object({
    clientId: idInput<"Client">(),
    requestId: requestInput,
    /** Of the value that was seen: the number of its entry, 0 for none. */
    seen: number().integer().min(0).required(),
    field: string().max(80).required(),
    value: string().trim().max(20_000, "That is long for one field.").optional(),
    /** A row of a list: which one, none for a new one, and what it holds; nothing for one that ended. */
    row: string().max(80).optional(),
    cells: mixed<RowValue>(isRow).optional(),
    reason: string().trim().max(500, "Keep the reason under 500 characters.").default(""),
  }),
  async run(
    ctx,
    { clientId, requestId, seen, field: key, value, row, cells, reason },
  ): Promise<Result<null, WriteError>> {
    const { repo, practice, random } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const field = fieldByKey(key, await fieldsOf(ctx));
    if (!field || field.identity) return notFound;
    if (await repo.charts.postingByRequest(requestId)) {
      ctx.journal("chart.post-repeated", `client:${clientId}`);
      return ok(null);
    }
    const chart = foldChart(await repo.charts.entries(clientId));
    const there =
      field.kind === "rows"
        ? (chart.lists[key] ?? []).find((one) => one.row === row)?.current
        : chart.fields[key]?.current;
    if (field.kind === "rows" && row !== undefined && !there) return notFound;
    if ((there?.seq ?? 0) !== seen) return fail({ reason: "chart-moved" });
    const change = (): EntryChange | string => {
      if (field.kind !== "rows") {
        if (value === undefined) return "Type what is to stand there.";
        if (field.kind === "date" && value !== "" && !isDay(value)) return "Choose a day.";
        if (field.kind === "number" && value !== "" && !Number.isFinite(Number(value))) return "Type a number.";
        return { kind: "set", field: key, value };
      }
      const filled = Object.fromEntries(
        field.columns.flatMap((column) => {
          const cell = (cells?.[column.key] ?? "").trim();
          return cell === "" ? [] : [[column.key, cell]];
        }),
      );
      if (cells !== undefined && (filled[field.matchOn] ?? "") === "") return "Fill in the first column.";
      if (cells === undefined && row === undefined) return "Fill in the first column.";
      return cells === undefined
        ? { kind: "end-row", field: key, row: row! }
        : { kind: "row", field: key, row: row ?? random.id<"Row">(), value: filled };
    };
    const made = change();
    if (typeof made === "string") return fail({ reason: "invalid", fields: { value: made } });
    await appendToChart(
      ctx,
      { id: random.id<"Posting">(), clientId, requestId, kind: "post", packetId: null, reverses: null },
      [{ change: made, source: { kind: "staff", reason: reason === "" ? "written by staff" : reason } }],
    );
    ctx.journal("chart.post", `client:${clientId}`, { field: key });
    return ok(null);
  },
});
