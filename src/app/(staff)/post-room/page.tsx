import type { Metadata } from "next";
import { application, roleMay, useCases } from "@/server";
import { currentStaff } from "../../_server/request";
import { load } from "../../_server/run";
import { PostRoomView } from "./post-room-view";

export const metadata: Metadata = { title: "Post room" };
export default async function PostRoomPage() {
  const { lines, simulation } = await load(useCases.postRoom, {});
  const actor = await currentStaff();
  return (
    <PostRoomView
      messages={lines}
      simulation={simulation}
      maySimulate={actor.kind === "staff" && roleMay(actor.role, "office.write")}
      real={(await application()).ports.post.outside}
    />
  );
}
