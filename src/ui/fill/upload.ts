import { createContext, useContext } from "react";
import type { FileProblem } from "@/core/files";
import type { FileValue } from "@/core/questionnaire";

export type Uploaded =
  | { readonly kind: "kept"; readonly value: FileValue }
  | { readonly kind: "refused"; readonly why: FileProblem }
  | { readonly kind: "no-reply" | "stopped" };
/** Sends one file for the question at `key`. `told` gets whole percents as it goes; `stop` ends it. */
export type Upload = (
  partId: string,
  key: string,
  file: File,
  told: (percent: number) => void,
  stop: AbortSignal,
) => Promise<Uploaded>;

/** Where nothing is kept (a rehearsal, the Composer's page): the file stays where it is. */
export const keepNothing: Upload = (_, __, file, told) => {
  told(100);
  return Promise.resolve({
    kind: "kept",
    value: { id: crypto.randomUUID(), title: file.name, contentType: file.type, size: file.size },
  });
};
const Uploads = createContext<Upload>(keepNothing);
export const UploadProvider = Uploads.Provider;
export const useUpload = (): Upload => useContext(Uploads);
