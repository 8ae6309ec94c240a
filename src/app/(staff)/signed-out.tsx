"use client";
import { Notice } from "@/ui/kit/notice";

/**
 * The session ended while somebody was writing: what stands here is saved once they are signed in again, wherever they
 * do that.
 */
export function SignedOut() {
  return (
    <Notice tone="problem">
      <strong>You were signed out.</strong> What you wrote is still on this page. Keep this page open,{" "}
      <a href="/sign-in" target="_blank" rel="noopener">
        sign in in a new window
      </a>
      , and it is saved by itself.
    </Notice>
  );
}
