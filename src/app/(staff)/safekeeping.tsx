import { warningWords, type Warning } from "@/core/backup";
import { Notice } from "@/ui/kit/notice";

/** What is wrong with the installation, for whoever answers for it; nothing where all is well. */
export function Warnings({ warnings }: { readonly warnings: readonly Warning[] }) {
  if (warnings.length === 0) return null;
  return (
    <Notice tone="attention">
      <strong>Look after this:</strong>
      <ul>
        {warnings.map((warning) => (
          <li key={warning.kind}>{warningWords(warning)}</li>
        ))}
      </ul>
    </Notice>
  );
}
