import { and, eq, gt, lt, sql } from "drizzle-orm";
import type { Id, Instant, Role, Sealer } from "../../core/shared";
import type { SignatureMark } from "../../core/signing";
import type { Db } from "../database";
import { recoveryCode, staff, staffMark, staffPasskey, staffTicket } from "../schema";

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
  readonly passkeyOn: boolean;
  readonly totpLastStep: number;
  readonly singleKeys: boolean;
  readonly active: boolean;
  /** When they took up their invitation; null until then. */
  readonly joinedAt: Instant | null;
  readonly leftAt: Instant | null;
}
/** Whether signing in takes more than a password. */
export const hasSecondFactor = ({ totpOn, passkeyOn }: Pick<Staff, "totpOn" | "passkeyOn">): boolean =>
  totpOn || passkeyOn;
export type Passkey = typeof staffPasskey.$inferSelect;
type TicketKind = "invite" | "reset";
type Row = typeof staff.$inferSelect;
const markPlace = (id: string): string => `staff-mark:${id}`;
const placeOf = (id: string): string => `staff:${id}:totp`;

export const staffReader =
  (sealer: Sealer) =>
  ({ totpSecret, ...row }: Row): Staff => ({
    ...row,
    totpSecret: totpSecret ? sealer.open<string>(placeOf(row.id), totpSecret) : undefined,
  });

export const staffRepository = (db: Db, sealer: Sealer) => {
  const read = staffReader(sealer);
  return {
    async add(row: typeof staff.$inferInsert): Promise<void> {
      await db.insert(staff).values(row);
    },
    /** How they sign. */
    async mark(id: Id<"Staff">): Promise<SignatureMark | undefined> {
      const [row] = await db.select().from(staffMark).where(eq(staffMark.staffId, id));
      return row && sealer.open<SignatureMark>(markPlace(id), row.mark);
    },
    async setMark(id: Id<"Staff">, mark: SignatureMark, at: Instant): Promise<void> {
      const sealed = sealer.seal(markPlace(id), mark);
      await db
        .insert(staffMark)
        .values({ staffId: id, mark: sealed, at })
        .onConflictDoUpdate({ target: staffMark.staffId, set: { mark: sealed, at } });
    },
    async dropMark(id: Id<"Staff">): Promise<void> {
      await db.delete(staffMark).where(eq(staffMark.staffId, id));
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
    /** Also somebody who has left. */
    async anyById(practiceId: Id<"Practice">, id: Id<"Staff">): Promise<Staff | undefined> {
      const [row] = await db
        .select()
        .from(staff)
        .where(and(eq(staff.practiceId, practiceId), eq(staff.id, id)));
      return row && read(row);
    },
    /** Gives false where the address is somebody else's. */
    async invite(row: typeof staff.$inferInsert): Promise<boolean> {
      return (await db.insert(staff).values(row).onConflictDoNothing().returning({ id: staff.id })).length > 0;
    },
    /** Gives false where the address is somebody else's. Whoever calls it holds the row. */
    async setEmail(id: Id<"Staff">, email: string): Promise<boolean> {
      const done = await db
        .update(staff)
        .set({ email })
        .where(and(eq(staff.id, id), sql`not exists (select 1 from staff other where other.email = ${email})`))
        .returning({ id: staff.id });
      return done.length > 0;
    },
    async setMember(
      id: Id<"Staff">,
      set: Partial<Pick<typeof staff.$inferInsert, "name" | "title" | "role" | "active" | "leftAt">>,
    ): Promise<void> {
      await db.update(staff).set(set).where(eq(staff.id, id));
    },
    async setPassword(id: Id<"Staff">, passwordHash: string): Promise<void> {
      await db.update(staff).set({ passwordHash }).where(eq(staff.id, id));
    },
    async join(id: Id<"Staff">, at: Instant): Promise<void> {
      await db.update(staff).set({ joinedAt: at }).where(eq(staff.id, id));
    },
    /** A newer ticket of a kind takes the place of an older one. */
    async giveTicket(ticket: typeof staffTicket.$inferInsert, now: Instant): Promise<void> {
      await db.delete(staffTicket).where(lt(staffTicket.expiresAt, now));
      await db
        .delete(staffTicket)
        .where(and(eq(staffTicket.staffId, ticket.staffId), eq(staffTicket.kind, ticket.kind)));
      await db.insert(staffTicket).values(ticket);
    },
    /** The person behind a ticket that still holds. */
    async byTicket(digest: string, now: Instant): Promise<{ kind: TicketKind; staff: Staff } | undefined> {
      const [row] = await db
        .select()
        .from(staffTicket)
        .innerJoin(staff, eq(staff.id, staffTicket.staffId))
        .where(and(eq(staffTicket.digest, digest), gt(staffTicket.expiresAt, now), eq(staff.active, true)));
      return row && { kind: row.staff_ticket.kind, staff: read(row.staff) };
    },
    /** Takes a ticket: of two at once only one gets true. */
    async takeTicket(digest: string): Promise<boolean> {
      const taken = await db
        .delete(staffTicket)
        .where(eq(staffTicket.digest, digest))
        .returning({ digest: staffTicket.digest });
      return taken.length > 0;
    },
    async dropTickets(id: Id<"Staff">): Promise<void> {
      await db.delete(staffTicket).where(eq(staffTicket.staffId, id));
    },
    /** In place of all that were there. */
    async setRecoveryCodes(staffId: Id<"Staff">, digests: readonly string[]): Promise<void> {
      await db.delete(recoveryCode).where(eq(recoveryCode.staffId, staffId));
      if (digests.length > 0) await db.insert(recoveryCode).values(digests.map((digest) => ({ digest, staffId })));
    },
    async countRecoveryCodes(staffId: Id<"Staff">): Promise<number> {
      return db.$count(recoveryCode, eq(recoveryCode.staffId, staffId));
    },
    /** Takes one: of two at once only one gets true. */
    async takeRecoveryCode(staffId: Id<"Staff">, digest: string): Promise<boolean> {
      const taken = await db
        .delete(recoveryCode)
        .where(and(eq(recoveryCode.staffId, staffId), eq(recoveryCode.digest, digest)))
        .returning({ digest: recoveryCode.digest });
      return taken.length > 0;
    },
    /** Oldest first. */
    async passkeys(staffId: Id<"Staff">): Promise<Passkey[]> {
      return db
        .select()
        .from(staffPasskey)
        .where(eq(staffPasskey.staffId, staffId))
        .orderBy(staffPasskey.createdAt, staffPasskey.id);
    },
    /** Gives false where that key is somebody's already. */
    async addPasskey(row: typeof staffPasskey.$inferInsert): Promise<boolean> {
      const added = await db.insert(staffPasskey).values(row).onConflictDoNothing().returning({ id: staffPasskey.id });
      if (added.length > 0) await db.update(staff).set({ passkeyOn: true }).where(eq(staff.id, row.staffId));
      return added.length > 0;
    },
    async usePasskey(id: string, counter: number, at: Instant): Promise<void> {
      await db.update(staffPasskey).set({ counter, usedAt: at }).where(eq(staffPasskey.id, id));
    },
    /** Whoever calls it holds the person's row. */
    async removePasskey(staffId: Id<"Staff">, id: string): Promise<boolean> {
      const gone = await db
        .delete(staffPasskey)
        .where(and(eq(staffPasskey.staffId, staffId), eq(staffPasskey.id, id)))
        .returning({ id: staffPasskey.id });
      const left = await db.$count(staffPasskey, eq(staffPasskey.staffId, staffId));
      await db
        .update(staff)
        .set({ passkeyOn: left > 0 })
        .where(eq(staff.id, staffId));
      return gone.length > 0;
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
