import { ValidationError, type Schema } from "yup";

/** Problems by field name, in the schema's words; undefined where there are none. */
export function problemsOf(schema: Schema, sent: FormData): Record<string, string> | undefined {
  try {
    schema.validateSync(Object.fromEntries(sent), { abortEarly: false });
    return undefined;
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    return Object.fromEntries((error.inner.length > 0 ? error.inner : [error]).map((e) => [e.path ?? "", e.message]));
  }
}
