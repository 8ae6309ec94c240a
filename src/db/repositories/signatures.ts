import { asc, eq } from "drizzle-orm";
import type { SignedStatement } from "../../core/signing";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { signature } from "../schema";

export interface Signature {
  readonly id: Id<"Signature">;
  readonly partId: Id<"Part">;
  readonly place: string;
  readonly statement: SignedStatement;
  readonly digest: string;
  readonly at: Instant;
  readonly address: string;
  readonly device: string;
}
export const signatureRepository = (db: Db, sealer: Sealer) => {
  const signaturePlace = (id: string): string => `signature:${id}`;
  return {
    async add(given: Signature): Promise<void> {
      await db
        .insert(signature)
        .values({ ...given, statement: sealer.seal(signaturePlace(given.id), given.statement) });
    },

    /** The newest signature at each place of a part, in the order they were given. */
    async ofPart(partId: Id<"Part">): Promise<Signature[]> {
      const rows = await db.select().from(signature).where(eq(signature.partId, partId)).orderBy(asc(signature.seq));
      return [...new Map(rows.map((r) => [r.place, r])).values()].map((row) => ({
        ...row,
        statement: sealer.open<SignedStatement>(signaturePlace(row.id), row.statement),
      }));
    },
  };
};
