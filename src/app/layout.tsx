import "@fontsource/atkinson-hyperlegible-next/400.css";
import "@fontsource/atkinson-hyperlegible-next/600.css";
import "@fontsource/newsreader/500.css";
import "@fontsource/newsreader/600.css";
import "@fontsource/noto-sans-arabic/arabic-400.css";
import "@fontsource/noto-naskh-arabic/arabic-500.css";
import "@/ui/kit/tokens.css";
import type { Metadata, Viewport } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import { directionOf } from "@/core/shared";
import { NonceMeta, StyleRegistry } from "@/ui/kit/registry";
import { languageAt } from "./_server/client-look";

export const metadata: Metadata = {
  title: { default: "Kind Ledger", template: "%s · Kind Ledger" },
  robots: { index: false, follow: false },
  icons: { icon: "/favicon.svg" },
};
export const viewport: Viewport = { width: "device-width", initialScale: 1 };
// A nonce is made for each request, so no page can be built ahead.
export const dynamic = "force-dynamic";

export default async function RootLayout({ children }: { readonly children: ReactNode }) {
  const asked = await headers();
  const nonce = asked.get("x-nonce") ?? "";
  const language = await languageAt(asked.get("x-kind-ledger-path") ?? "", asked.get("x-kind-ledger-language"));
  return (
    <html lang={language} dir={directionOf(language)}>
      <head>
        <NonceMeta nonce={nonce} />
      </head>
      <body>
        <StyleRegistry nonce={nonce}>{children}</StyleRegistry>
      </body>
    </html>
  );
}
