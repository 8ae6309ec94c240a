import { createHash } from "node:crypto";
import { canonicalText } from "../../core/signing";

/** SHA-256 over the canonical JSON (RFC 8785) of what lies in a row. */
export const rowDigest = (row: object): string => createHash("sha256").update(canonicalText(row)).digest("hex");
