import type { ReactNode } from "react";
import { Doorstep } from "@/ui/kit/doorstep";

export default function PublicLayout({ children }: { readonly children: ReactNode }) {
  return <Doorstep>{children}</Doorstep>;
}
