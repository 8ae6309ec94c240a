"use client";
import { useServerInsertedHTML } from "next/navigation";
import { useState, type ReactNode } from "react";
import { ServerStyleSheet, StyleSheetManager } from "styled-components";

/**
 * Where styled-components and React Aria look for the nonce of the styles they add. It stays the one the document came
 * with: where one page leads to the next without a load, the policy is still the first one's.
 */
export function NonceMeta({ nonce }: { readonly nonce: string }) {
  const [first] = useState(nonce);
  return <meta property="csp-nonce" nonce={first} content={first} suppressHydrationWarning />;
}
/** Collects styles while rendering on the server, and gives every style element the page's nonce. */
export function StyleRegistry({ nonce, children }: { readonly nonce: string; readonly children: ReactNode }) {
  const [sheet] = useState(() => new ServerStyleSheet({ nonce }));
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement();
    sheet.instance.clearTag();
    return <>{styles}</>;
  });
  // In the browser the nonce is read from the page's csp-nonce meta element.
  if (typeof window !== "undefined") return <>{children}</>;
  return <StyleSheetManager sheet={sheet.instance}>{children}</StyleSheetManager>;
}
