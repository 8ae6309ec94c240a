import { asc, eq } from "drizzle-orm";
import type { SignedStatement } from "../../core/signing";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { signature } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { knownPart } from "./parts-known";
import { rowDigest } from "./row-digest";

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
/** SHA-256 over a signature as it lies in the database, sealed. */
export const signatureDigest = (row: Omit<typeof signature.$inferSelect, "seq">): string => {
  const { id, partId, place, statement, digest, at, address, device } = row;
  return rowDigest({
    id,
    partId,
    place,
    statement: Buffer.from(statement).toString("base64"),
    digest,
    at,
    address,
    device,
  });
};
export const signatureRepository = (db: Db, sealer: Sealer) => {
  const signaturePlace = (id: string): string => `signature:${id}`;
  const keys = clientKeyRepository(db, sealer);
  return {
    /** Gives the digest of the row, for the journal. */
    async add(given: Signature): Promise<string> {
      const part = await knownPart(db, given.partId);
      await keys.know([part?.keyId]);
      const row = { ...given, statement: sealer.seal(signaturePlace(given.id), given.statement, part?.keyId) };
      await db.insert(signature).values(row);
      return signatureDigest(row);
    },

    /** The newest signature at each place of a part, in the order they were given. */
    async ofPart(partId: Id<"Part">): Promise<Signature[]> {
      const rows = await db.select().from(signature).where(eq(signature.partId, partId)).orderBy(asc(signature.seq));
      await keys.knowFor(rows.map(({ statement }) => statement));
      return [...new Map(rows.map((r) => [r.place, r])).values()].map((row) => ({
        ...row,
        statement: sealer.open<SignedStatement>(signaturePlace(row.id), row.statement),
      }));
    },
  };
};
