'use client';
import { useServerInsertedHTML } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { ServerStyleSheet, StyleSheetManager } from 'styled-components';

// A page that ends early on the server (not found) is begun anew in the browser, without our head: the nonce is then taken
// from a script that has it, before anything adds a style.
if (typeof document !== 'undefined' && !document.head.querySelector('meta[property="csp-nonce"]')) {
  const nonce = document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce;
  if (nonce) {
    const meta = Object.assign(document.createElement('meta'), { nonce, content: nonce });
    meta.setAttribute('property', 'csp-nonce');
    document.head.append(meta);
  }
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
  if (typeof window !== 'undefined') return <>{children}</>;
  return <StyleSheetManager sheet={sheet.instance}>{children}</StyleSheetManager>;
}
