"use client";
import { TextField } from "@/ui/kit/text-field";

/** For what takes the password again: a session left open must not be enough. */
export function OwnPassword({ help }: { readonly help?: string }) {
  return (
    <TextField
      name="password"
      type="password"
      label="Your password"
      help={help}
      autoComplete="current-password"
      dir="ltr"
    />
  );
}
export const passwordSchema = async () => (await import("@/core/forms")).passwordSchema;
