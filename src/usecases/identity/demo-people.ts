import { ok, type Result } from "../../core/shared";
import { nothing, query } from "../kit";

export interface DemoPerson {
  readonly name: string;
  readonly title: string;
  readonly email: string;
  readonly password: string;
}
/** Whom the demo's sign-in page offers; outside of the demo nobody. */
export const demoPeople = query({
  name: "demo-people",
  access: "anyone",
  input: nothing,
  async run({ repo, practice, demoPassword }): Promise<Result<readonly DemoPerson[], never>> {
    if (demoPassword === undefined) return ok([]);
    const staff = (await repo.staff.all(practice.id)).filter(({ active, joinedAt }) => active && joinedAt !== null);
    return ok(staff.map(({ name, title, email }) => ({ name, title, email, password: demoPassword })));
  },
});
