import type { FillPart } from "@/usecases/filling";
import { elementId } from "./steps";

/** Brings a question into sight, with the focus in it. */
export function jumpTo(part: Pick<FillPart, "id">, key: string): void {
  const box = document.getElementById(elementId(part.id, key));
  box?.scrollIntoView({ block: "center" });
  box?.querySelector<HTMLElement>("input, textarea, button, [tabindex='0']")?.focus({ preventScroll: true });
}
