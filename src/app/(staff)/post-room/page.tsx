import type { Metadata } from "next";
import { application, useCases } from "@/server";
import { load, staffRights } from "../../_server/run";
import { PostRoomView } from "./post-room-view";

export const metadata: Metadata = { title: "Post room" };
export default async function PostRoomPage() {
  const { lines, simulation } = await load(useCases.postRoom, {});
  return (
    <PostRoomView
      messages={lines}
      simulation={simulation}
      maySimulate={(await staffRights()).includes("office.write")}
      real={(await application()).ports.post.outside}
    />
  );
}
