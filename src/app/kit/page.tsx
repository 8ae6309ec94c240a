import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { instant } from "@/core/shared";
import { TimeFrameProvider } from "@/ui/kit/time";
import { KitView } from "./kit-view";

export const metadata: Metadata = { title: "Interface kit" };
/** Every part of the interface in every state; while developing only. */
export default function KitPage() {
  if (process.env.NODE_ENV === "production") redirect("/nothing-here");
  return (
    <TimeFrameProvider frame={{ locale: "en-GB", zone: "Europe/London", now: instant("2026-11-25T08:10:00Z") }}>
      <KitView />
    </TimeFrameProvider>
  );
}
