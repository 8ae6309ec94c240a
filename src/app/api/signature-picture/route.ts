import { useCases } from "@/server";
import { bodyOf } from "../../_server/body";
import { answerJson } from "../../_server/json";
import { runAsStaff } from "../../_server/run";

export async function PUT(request: Request): Promise<Response> {
  return answerJson(await runAsStaff(useCases.cutOwnPicture, { bytes: await bodyOf(request) }));
}
