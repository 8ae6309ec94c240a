import { array, mixed, number, object, string } from "yup";
import { decisions, type Choice, type RowValue } from "../../core/chart";
import { idInput, requestInput } from "../kit/inputs";

const isRow = (v: unknown): v is RowValue =>
  typeof v === "object" && v !== null && Object.values(v).every((c) => typeof c === "string" && c.length <= 2000);

export const postSchema = object({
  packetId: idInput<"Packet">(),
  requestId: requestInput,
  revision: number().integer().min(0).required(),
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
    .max(500)
    .required(),
});
