import { object, string } from "yup";
import { ownFieldKinds, ownFieldSections } from "./own-fields";

/** The columns of a list, typed one a line. */
export const columnsOf = (text: string | undefined): string[] =>
  (text ?? "")
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);
export const fieldLabelSchema = object({
  label: string().trim().max(60, "That is long for a name.").required("Type what it is called."),
});
export const newFieldSchema = fieldLabelSchema.concat(
  object({
    section: string().oneOf(ownFieldSections).required("Choose where it stands."),
    kind: string().oneOf(ownFieldKinds).required("Choose what it holds."),
    columns: string()
      .default("")
      .when("kind", ([kind], schema) =>
        kind !== "rows"
          ? schema
          : schema.test(
              "columns",
              "Type the columns, one a line, at most eight.",
              (v) => columnsOf(v).length > 0 && columnsOf(v).length <= 8 && columnsOf(v).every((c) => c.length <= 60),
            ),
      ),
  }),
);
