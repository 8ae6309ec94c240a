"use client";
import { TextField } from "./text-field";

export interface NewPasswordProps {
  readonly label?: string;
  /** What becomes of it besides. */
  readonly also?: string;
  readonly autoFocus?: boolean;
}
/** A password that is being chosen, with what holds for it. */
export function NewPassword({ label = "New password", also = "", autoFocus = false }: NewPasswordProps) {
  return (
    <TextField
      name="newPassword"
      type="password"
      label={label}
      help={`At least 15 characters; a few words in a row do well. There is no rule what they are made of. ${also}`.trim()}
      autoComplete="new-password"
      autoFocus={autoFocus}
      dir="ltr"
    />
  );
}
