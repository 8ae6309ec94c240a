"use client";
import { useRouter } from "next/navigation";
import { useEffect } from "react";

/**
 * Shows the page anew when something came back, without a reload. The browser reconnects by itself when the line drops.
 */
export function useLiveReload(): void {
  const router = useRouter();
  useEffect(() => {
    const source = new EventSource("/api/events");
    let dropped = false;
    source.addEventListener("returns", () => {
      router.refresh();
    });
    source.onerror = () => {
      dropped = true;
    };
    // What happened while the line was down was not heard.
    source.onopen = () => {
      if (dropped) router.refresh();
      dropped = false;
    };
    return () => {
      source.close();
    };
  }, [router]);
}
