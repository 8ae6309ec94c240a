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
import { StyleRegistry } from "@/ui/kit/registry";

export const metadata: Metadata = {
  title: { default: "Kind Ledger", template: "%s · Kind Ledger" },
  robots: { index: false, follow: false },
  icons: { icon: "/favicon.svg" },
};
export const viewport: Viewport = { width: "device-width", initialScale: 1 };
// A nonce is made for each request, so no page can be built ahead.
export const dynamic = "force-dynamic";

export default async function RootLayout({ children }: { readonly children: ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? "";
  return (
    <html lang="en" dir="ltr">
      <head>
        {/* styled-components and React Aria look here for the nonce of the styles they add. */}
        <meta property="csp-nonce" nonce={nonce} content={nonce} />
      </head>
      <body>
        <StyleRegistry nonce={nonce}>{children}</StyleRegistry>
      </body>
    </html>
  );
}
