import { jsonHeaders } from "../../_server/json";
import { currentStaff } from "../../_server/request";

/**
 * When the session ends unless it is used: a page asks before it says so, since what was done meanwhile kept it open.
 */
export async function GET(): Promise<Response> {
  const staff = await currentStaff(false);
  return Response.json({ until: staff.kind === "staff" ? staff.sessionUntil : undefined }, { headers: jsonHeaders });
}
