import { redirect } from "next/navigation";
import type { ReactNode } from "react";
import { application } from "@/server";
import { ShortcutKeys } from "@/ui/kit/shortcuts";
import { TimeFrameProvider } from "@/ui/kit/time";
import { Spine } from "@/ui/kit/spine";
import { currentStaff } from "../_server/request";
import { signOutAction } from "./actions";
import { Find } from "./find";

export default async function StaffLayout({ children }: { readonly children: ReactNode }) {
  const app = await application();
  const actor = await currentStaff();
  if (actor.kind !== "staff") redirect("/sign-in");
  const practice = await app.practice();
  return (
    <TimeFrameProvider
      frame={{ locale: practice?.locale ?? "en-GB", zone: practice?.zone ?? "UTC", now: app.ports.clock.now() }}
    >
      <ShortcutKeys>
        <Spine
          practice={practice?.name ?? ""}
          person={actor.name}
          role={actor.role}
          signOut={signOutAction}
          find={<Find role={actor.role} />}
        >
          {children}
        </Spine>
      </ShortcutKeys>
    </TimeFrameProvider>
  );
}
