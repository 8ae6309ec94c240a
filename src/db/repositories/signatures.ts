import { asc, eq, inArray } from "drizzle-orm";
import type { Evidence, SignedStatement } from "../../core/signing";
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
  /** Undefined in those from before it was kept. */
  readonly evidence: Evidence | undefined;
  /** Its number: what was given later is higher. */
  readonly order: number;
}
/** SHA-256 over a signature as it lies in the database, sealed. */
export const signatureDigest = (row: Omit<typeof signature.$inferSelect, "seq">): string => {
  const { id, partId, place, statement, digest, at, address, device, evidence } = row;
  return rowDigest({
    id,
    partId,
    place,
    statement: Buffer.from(statement).toString("base64"),
    digest,
    at,
    address,
    device,
    ...(evidence ? { evidence: Buffer.from(evidence).toString("base64") } : {}),
  });
};
export const signatureRepository = (db: Db, sealer: Sealer) => {
  const signaturePlace = (id: string): string => `signature:${id}`;
  const evidencePlace = (id: string): string => `signature-evidence:${id}`;
  const keys = clientKeyRepository(db, sealer);
  async function opened(rows: readonly (typeof signature.$inferSelect)[]): Promise<Signature[]> {
    await keys.knowFor(rows.flatMap(({ statement, evidence }) => [statement, ...(evidence ? [evidence] : [])]));
    return rows.map(({ seq, ...row }) => ({
      ...row,
      order: seq,
      statement: sealer.open<SignedStatement>(signaturePlace(row.id), row.statement),
      evidence: row.evidence ? sealer.open<Evidence>(evidencePlace(row.id), row.evidence) : undefined,
    }));
  }
  return {
    /** Gives the digest of the row, for the journal. */
    async add({ evidence, ...given }: Omit<Signature, "order">): Promise<string> {
      const part = await knownPart(db, given.partId);
      await keys.know([part?.keyId]);
      const row = {
        ...given,
        statement: sealer.seal(signaturePlace(given.id), given.statement, part?.keyId),
        evidence: evidence ? sealer.seal(evidencePlace(given.id), evidence, part?.keyId) : null,
      };
      await db.insert(signature).values(row);
      return signatureDigest(row);
    },

    async byIds(ids: readonly Id<"Signature">[]): Promise<Signature[]> {
      if (ids.length === 0) return [];
      const rows = await db
        .select()
        .from(signature)
        .where(inArray(signature.id, [...ids]))
        .orderBy(asc(signature.seq));
      return opened(rows);
    },

    /** The newest signature at each place of a part, in the order they were given. */
    async ofPart(partId: Id<"Part">): Promise<Signature[]> {
      const rows = await db.select().from(signature).where(eq(signature.partId, partId)).orderBy(asc(signature.seq));
      return opened([...new Map(rows.map((r) => [r.place, r])).values()].toSorted((one, other) => one.seq - other.seq));
    },
  };
};
