import { and, asc, eq, gt, gte, inArray, isNull, or } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { client, consent, packet, packetPart, questionnaire, questionnaireVersion, visit } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { knownPart } from "./parts-known";
import { inSight, type Sight } from "./sight";

export type Consent = Omit<typeof consent.$inferSelect, "reason" | "seq"> & { readonly reason: string | undefined };

export interface ConsentText {
  readonly id: Id<"Questionnaire">;
  readonly title: string;
  readonly state: "draft" | "active" | "retired";
  readonly neededByAll: boolean;
}
export interface AskedConsent {
  readonly clientId: Id<"Client">;
  readonly questionnaireId: Id<"Questionnaire">;
}

/** Consents that were given, withdrawn or have run out. */
export const consentRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const keys = clientKeyRepository(db, sealer);
  const seen = inSight(db, sight)(consent.clientId);
  const reasonPlace = (id: string): string => `consent:${id}`;
  async function read(rows: readonly (typeof consent.$inferSelect)[]): Promise<Consent[]> {
    await keys.knowFor(rows.flatMap(({ reason }) => reason ?? []));
    return rows.map((row) => ({
      ...row,
      reason: row.reason ? sealer.open<string>(reasonPlace(row.id), row.reason) : undefined,
    }));
  }
  return {
    async add({ reason: _reason, ...row }: Consent): Promise<void> {
      await db.insert(consent).values(row);
    },
    /** The one that counts for what was signed of a part. */
    async ofPart(partId: Id<"Part">): Promise<Consent | undefined> {
      return (
        await read(
          await db
            .select()
            .from(consent)
            .where(and(eq(consent.partId, partId), isNull(consent.voidedAt))),
        )
      )[0];
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Consent">): Promise<Consent | undefined> {
      return (
        await read(
          await db
            .select()
            .from(consent)
            .where(and(eq(consent.practiceId, practiceId), eq(consent.id, id), seen)),
        )
      )[0];
    },
    /** Of these clients, the oldest first; of everybody in sight where none is named. */
    async all(practiceId: Id<"Practice">, clientIds?: readonly Id<"Client">[]): Promise<Consent[]> {
      if (clientIds?.length === 0) return [];
      const rows = await db
        .select({ consent })
        .from(consent)
        .innerJoin(client, eq(client.id, consent.clientId))
        .where(
          and(
            eq(consent.practiceId, practiceId),
            isNull(client.erasedAt),
            clientIds ? inArray(consent.clientId, [...clientIds]) : undefined,
            seen,
          ),
        )
        .orderBy(asc(consent.seq));
      return read(rows.map((row) => row.consent));
    },
    /** Every consent text there is or was. */
    async texts(practiceId: Id<"Practice">): Promise<ConsentText[]> {
      return db
        .select({
          id: questionnaire.id,
          title: questionnaire.title,
          state: questionnaire.state,
          neededByAll: questionnaire.neededByAll,
        })
        .from(questionnaire)
        .where(and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.kind, "consent")))
        .orderBy(asc(questionnaire.title), asc(questionnaire.id));
    },
    async setNeeded(practiceId: Id<"Practice">, id: Id<"Questionnaire">, neededByAll: boolean): Promise<boolean> {
      const set = await db
        .update(questionnaire)
        .set({ neededByAll })
        .where(
          and(eq(questionnaire.practiceId, practiceId), eq(questionnaire.id, id), eq(questionnaire.kind, "consent")),
        )
        .returning({ id: questionnaire.id });
      return set.length === 1;
    },
    /** Who has which consent text on its way: sent and not back, or back and not signed by everybody. */
    async asked(
      practiceId: Id<"Practice">,
      now: Instant,
      clientIds?: readonly Id<"Client">[],
    ): Promise<AskedConsent[]> {
      if (clientIds?.length === 0) return [];
      return db
        .selectDistinct({ clientId: packet.clientId, questionnaireId: questionnaireVersion.questionnaireId })
        .from(packetPart)
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .innerJoin(questionnaire, eq(questionnaire.id, questionnaireVersion.questionnaireId))
        .leftJoin(consent, and(eq(consent.partId, packetPart.id), isNull(consent.voidedAt)))
        .where(
          and(
            eq(packet.practiceId, practiceId),
            eq(questionnaire.kind, "consent"),
            isNull(consent.id),
            or(
              inArray(packet.state, ["returned", "sent-back"]),
              and(inArray(packet.state, ["ready", "sent", "opened", "under-way"]), gt(packet.expiresAt, now)),
            ),
            clientIds ? inArray(packet.clientId, [...clientIds]) : undefined,
            inSight(db, sight)(packet.clientId),
          ),
        );
    },
    /** Which kinds of visit clients have from a moment on. */
    async visitsFrom(
      practiceId: Id<"Practice">,
      from: Instant,
      clientIds?: readonly Id<"Client">[],
    ): Promise<{ clientId: Id<"Client">; visitTypeId: Id<"VisitType"> }[]> {
      if (clientIds?.length === 0) return [];
      return db
        .selectDistinct({ clientId: visit.clientId, visitTypeId: visit.visitTypeId })
        .from(visit)
        .where(
          and(
            eq(visit.practiceId, practiceId),
            gte(visit.startsAt, from),
            isNull(visit.cancelledAt),
            clientIds ? inArray(visit.clientId, [...clientIds]) : undefined,
            inSight(db, sight)(visit.clientId),
          ),
        );
    },
    async withdraw(
      { id, partId }: Pick<Consent, "id" | "partId">,
      at: Instant,
      by: string,
      reason: string,
    ): Promise<void> {
      const keyId = (await knownPart(db, partId))?.keyId;
      await keys.know([keyId]);
      await db
        .update(consent)
        .set({ withdrawnAt: at, withdrawnBy: by, reason: sealer.seal(reasonPlace(id), reason, keyId) })
        .where(eq(consent.id, id));
    },
    async void(partId: Id<"Part">, at: Instant): Promise<void> {
      await db
        .update(consent)
        .set({ voidedAt: at })
        .where(and(eq(consent.partId, partId), isNull(consent.voidedAt)));
    },
  };
};
