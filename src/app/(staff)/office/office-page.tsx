"use client";
import { usePathname } from "next/navigation";
import type { ReactNode } from "react";
import type { Role } from "@/core/shared";
import { Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Page } from "@/ui/kit/page";

/** The pages of Office, and who may open them. */
const pages = [
  { href: "/office", name: "Practice and sign-in", for: ["owner", "office", "practitioner"] },
  { href: "/office/door", name: "Door check", for: ["owner", "office"] },
  { href: "/office/pages", name: "Clients’ pages", for: ["owner", "office"] },
  { href: "/office/wordings", name: "Letters and texts", for: ["owner", "office"] },
  { href: "/office/fields", name: "Chart fields", for: ["owner", "office"] },
  { href: "/office/journal", name: "Journal", for: ["owner", "office"] },
] as const;

export interface OfficePageProps {
  readonly role: Role;
  readonly children: ReactNode;
}
/** One page of Office, with the way to the others. */
export function OfficePage({ role, children }: OfficePageProps) {
  const path = usePathname();
  const own = pages.filter((page) => (page.for as readonly Role[]).includes(role));
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
