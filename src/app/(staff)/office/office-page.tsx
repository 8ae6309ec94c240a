"use client";
import { usePathname } from "next/navigation";
import type { ReactNode } from "react";
import type { Right } from "@/core/team";
import { Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Page } from "@/ui/kit/page";
import { officePages } from "./office-pages";

export interface OfficePageProps {
  readonly rights: readonly Right[];
  readonly children: ReactNode;
}
/** One page of Office, with the way to the others. */
export function OfficePage({ rights, children }: OfficePageProps) {
  const path = usePathname();
  const own = officePages.filter(({ right }) => right === undefined || rights.includes(right));
  const here = own.find((page) => page.href === path);
  return (
    <Page title={here?.name ?? "Office"}>
      {own.length > 1 && (
        <Strip as="nav" aria-label="Pages of Office">
          {own.map((page) => (
            <Link key={page.href} href={page.href} aria-current={page === here ? "page" : undefined}>
              {page.name}
            </Link>
          ))}
        </Strip>
      )}
      {children}
    </Page>
  );
}
