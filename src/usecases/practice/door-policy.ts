import { boolean, mixed, number, object } from "yup";
import { doorFallbacks, doorWays, type DoorPolicy, type DoorWay } from "../../core/packet";
import { ok, type Result } from "../../core/shared";
import { command, nothing, query, type CommonError } from "../kit";

export const doorPolicy = query({
  name: "door-policy",
  access: "office.write",
  input: nothing,
  async run({ repo, practice }): Promise<Result<DoorPolicy, never>> {
    return ok(await repo.practices.door(practice.id));
  },
});
/** How clients prove themselves from now on; packets with a way of their own keep it, and who is in stays in. */
export const saveDoorPolicy = command({
  name: "save-door-policy",
  access: "office.write",
  input: object({
    way: mixed<DoorWay>()
      .oneOf([...doorWays])
      .required(),
    ifMissing: mixed<DoorPolicy["ifMissing"]>()
      .oneOf([...doorFallbacks])
      .required(),
    details: mixed<DoorPolicy["details"]>().oneOf(["last-name", "postcode"]).required(),
    hours: number()
      .integer()
      .min(1, "From one hour on.")
      .max(72, "At most 72 hours.")
      .required("Say for how many hours."),
    others: boolean().default(false),
    atOnce: boolean().default(false),
  }),
  async run(ctx, policy): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.setDoor(ctx.practice.id, policy);
    ctx.journal("door.policy", "practice", { ...policy });
    return ok(null);
  },
});
