"use client";
import { useRouter } from "next/navigation";
import { Pick } from "@/ui/kit/pick";
import type { WithOne } from "@/usecases/scheduling";

export interface WithOnePickProps {
  readonly who: WithOne;
  /** The page's address for one practitioner, or for everybody. */
  readonly hrefOf: (staffId: string | undefined) => string;
}
/** Whose visits are shown; everybody's only where a page holds them. */
export function WithOnePick({ who: { practitioners, staffId, tooMany }, hrefOf }: WithOnePickProps) {
  const router = useRouter();
  if (practitioners.length < 2 && staffId === undefined) return null;
  return (
    <Pick
      bare
      small
      label="Whose visits"
      value={staffId ?? "everybody"}
      options={[
        ...(tooMany ? [] : [{ value: "everybody", label: "Everybody’s visits" }]),
        ...practitioners.map(({ id, name, visits }) => ({ value: id as string, label: `${name}, ${visits}` })),
      ]}
      onChange={(chosen) => router.push(hrefOf(chosen === "everybody" ? undefined : chosen))}
    />
  );
}
