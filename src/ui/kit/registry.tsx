"use client";
import { useServerInsertedHTML } from "next/navigation";
import { useState, type ReactNode } from "react";
import { ServerStyleSheet, StyleSheetManager } from "styled-components";

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
