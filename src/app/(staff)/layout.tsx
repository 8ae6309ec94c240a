import { redirect } from "next/navigation";
import type { ReactNode } from "react";
import { application, rightsFor } from "@/server";
import { ShortcutKeys } from "@/ui/kit/shortcuts";
import { TimeFrameProvider } from "@/ui/kit/time";
import { Spine } from "@/ui/kit/spine";
import { currentStaff } from "../_server/request";
import { waiting } from "../_server/waiting";
import { signOutAction } from "./actions";
import type { Waiting } from "@/usecases/sending";
import { Find } from "./find";
import { SessionEnd } from "./session-end";

/** Who may not read answers sees on the Day sheet's line what did not arrive. */
function waitingWords({ toRead, unreached }: Waiting): Readonly<Record<string, string>> {
  const lost = unreached > 0 ? [`${unreached} not reached`] : [];
  const unread = toRead ? [`${toRead} to read`] : [];
  return { [toRead === undefined ? "/day" : "/returns"]: [...unread, ...lost].join(", ") };
}

export default async function StaffLayout({ children }: { readonly children: ReactNode }) {
  const app = await application();
  const actor = await currentStaff();
  if (actor.kind !== "staff") redirect("/sign-in");
  const practice = await app.practice();
  const rights = practice ? rightsFor(actor, practice) : [];
  return (
    <TimeFrameProvider
      frame={{ locale: practice?.locale ?? "en-GB", zone: practice?.zone ?? "UTC", now: app.ports.clock.now() }}
    >
      <ShortcutKeys single={actor.singleKeys !== false}>
        <SessionEnd until={actor.sessionUntil} />
        <Spine
          practice={practice?.name ?? ""}
          person={actor.name}
          rights={rights}
          signOut={signOutAction}
          find={<Find rights={rights} />}
          waiting={waitingWords(await waiting())}
          postRoom={!app.ports.post.outside && rights.includes("post-room.read")}
        >
          {children}
        </Spine>
      </ShortcutKeys>
    </TimeFrameProvider>
  );
}
