import { and, eq } from "drizzle-orm";
import type { Id, Role, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { staff } from "../schema";

export interface Staff {
  readonly id: Id<"Staff">;
  readonly practiceId: Id<"Practice">;
  readonly email: string;
  readonly name: string;
  readonly title: string;
  readonly role: Role;
  readonly passwordHash: string;
  readonly totpSecret: string | undefined;
  readonly totpOn: boolean;
  readonly totpLastStep: number;
  readonly singleKeys: boolean;
}
type Row = typeof staff.$inferSelect;
const placeOf = (id: string): string => `staff:${id}:totp`;

export const staffReader =
  (sealer: Sealer) =>
  ({ totpSecret, active: _active, ...row }: Row): Staff => ({
    ...row,
    totpSecret: totpSecret ? sealer.open<string>(placeOf(row.id), totpSecret) : undefined,
  });

export const staffRepository = (db: Db, sealer: Sealer) => {
  const read = staffReader(sealer);
  return {
    async add(row: typeof staff.$inferInsert): Promise<void> {
      await db.insert(staff).values(row);
    },
    async setSingleKeys(id: Id<"Staff">, on: boolean): Promise<void> {
      await db.update(staff).set({ singleKeys: on }).where(eq(staff.id, id));
    },
    async byEmail(email: string): Promise<Staff | undefined> {
      const [row] = await db
        .select()
        .from(staff)
        .where(and(eq(staff.email, email.trim().toLowerCase()), eq(staff.active, true)));
      return row && read(row);
    },
    /** @param forUpdate holds the row, so that two tries with the same code come one after the other. */
    async byId(id: Id<"Staff">, forUpdate = false): Promise<Staff | undefined> {
      const query = db
        .select()
        .from(staff)
        .where(and(eq(staff.id, id), eq(staff.active, true)));
      if (forUpdate) query.for("update");
      const [row] = await query;
      return row && read(row);
    },
    async all(practiceId: Id<"Practice">): Promise<Staff[]> {
      return (await db.select().from(staff).where(eq(staff.practiceId, practiceId)).orderBy(staff.name)).map(read);
    },
    async setTotp(id: Id<"Staff">, secret: string | undefined, on: boolean, lastStep: number): Promise<void> {
      await db
        .update(staff)
        .set({
          totpSecret: secret === undefined ? null : sealer.seal(placeOf(id), secret),
          totpOn: on,
          totpLastStep: lastStep,
        })
        .where(eq(staff.id, id));
    },
  };
};
