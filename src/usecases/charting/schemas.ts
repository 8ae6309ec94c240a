import { array, mixed, number, object, string } from "yup";
import { decisions, type Choice, type RowValue } from "../../core/chart";
import { idInput, requestInput } from "../kit/inputs";

/** Cells of a row, by column. */
export const isRow = (v: unknown): v is RowValue =>
  typeof v === "object" && v !== null && Object.values(v).every((c) => typeof c === "string" && c.length <= 2000);

const isRedirects = (v: unknown): v is Readonly<Record<string, string>> =>
  typeof v === "object" &&
  v !== null &&
  Object.keys(v).length <= 500 &&
  Object.entries(v).every(([line, field]) => line.length <= 600 && typeof field === "string" && field.length <= 80);

/** What was decided about a return so far. */
export const reconcileDraftSchema = object({
  packetId: idInput<"Packet">(),
  redirects: mixed<Readonly<Record<string, string>>>(isRedirects).default({}),
  decisions: array(
    object({
      line: string().max(600).required(),
      choice: mixed<Choice>()
        .oneOf([...decisions])
        .required(),
      edited: mixed<string | RowValue>(
        (v): v is string | RowValue => (typeof v === "string" && v.length <= 20_000) || isRow(v),
      ).optional(),
    }),
  )
    .max(2000)
    .required(),
});
export const postSchema = reconcileDraftSchema.concat(
  object({ requestId: requestInput, revision: number().integer().min(0).required() }),
);
