import { object } from "yup";
import { nameOf } from "../../core/chart";
import type { JournalAction } from "../../core/audit";
import type { PostPurpose, PostState } from "../../core/messages";
import { isOpen, markAndWords, stateAt, type CopyRole, type PacketMark, type PacketState } from "../../core/packet";
import { allItems, linkIdOf, sectionsOf } from "../../core/questionnaire";
import { instantMs, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Day } from "../../core/scheduling";
import type { Packet } from "../../db/repositories";
import { idInput, inOrder, notFound, query, may, type CommonError, type Context } from "../kit";
import { linkHolders, peopleOf } from "./people";
import { languageOf, recipientFor } from "./recipient";
import { othersOf } from "./send-packet";

/** A packet's journey as staff see it. No answers in it. */
/** A journal action, or what the journal does not tell apart. */
export type StepAction = JournalAction | "packet.made" | "section" | "letter" | "letter.opened";
export interface PacketJourney {
  readonly id: Id<"Packet">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly state: PacketState;
  /** As it is listed: its state, or that the letter did not arrive. */
  readonly mark: PacketMark;
  readonly words: string;
  readonly locked: boolean;
  /** Whether who looks may see answers; what they open for a client shows nothing that was there before otherwise. */
  readonly maySee: boolean;
  readonly expiresAt: Instant;
  readonly titles: readonly string[];
  readonly visit:
    | {
        readonly id: Id<"Visit">;
        readonly startsAt: Instant;
        readonly visitType: string;
        readonly practitioner: string;
      }
    | undefined;
  readonly recipient: {
    readonly name: string;
    readonly relation: string | undefined;
    readonly masked: string | undefined;
    readonly ended: boolean;
  };
  /** Whom a letter about it reaches now; a reminder only those who fill it in. */
  readonly reached: readonly { readonly role: CopyRole; readonly masked: string }[];
  /** Everybody with a link, in the order they got one. */
  readonly people: readonly {
    readonly relationId: Id<"Relation"> | null;
    readonly name: string;
    readonly kind: string | undefined;
    readonly role: CopyRole;
    readonly live: boolean;
    readonly masked: string | undefined;
  }[];
  /** Who else could get one, the client included. */
  readonly others: readonly {
    readonly relationId: Id<"Relation"> | null;
    readonly name: string;
    readonly kind: string;
    readonly masked: string | undefined;
  }[];
  readonly repeats: boolean;
  readonly leaflets: readonly string[];
  /** This person may look at the answers before they come back. */
  readonly look: boolean;
  readonly dueOn: Day | null;
  readonly language: string;
  readonly personalLine: string | undefined;
  readonly lastLetterAt: Instant;
  /** Letters that did not simply arrive, and when what arrived was opened. */
  readonly letters: readonly {
    readonly id: Id<"Message">;
    readonly at: Instant;
    readonly purpose: PostPurpose;
    readonly state: PostState;
    readonly openedAt: Instant | null;
    readonly trouble: string | null;
  }[];
  /** What happened, in time; `section`: the last answer on a page of the client's was given, which `what` names. */
  readonly steps: readonly {
    readonly at: Instant;
    readonly action: StepAction;
    readonly key: string;
    readonly what?: string;
    /** Who did it, where that is known; of a letter, whom it is to. */
    readonly who?: string;
    /** Of a letter, what it was for and what became of it. */
    readonly letter?: { readonly purpose: PostPurpose; readonly state: PostState };
  }[];
}
export const packetJourney = query({
  name: "packet-journey",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">() }),
  async run(ctx, { packetId }): Promise<Result<PacketJourney, CommonError>> {
    const { repo, practice, now } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId);
    const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
    if (!packet || !client) return notFound;
    const visit = packet.visitId ? await repo.visits.byId(practice.id, packet.visitId) : undefined;
    const recipient = await recipientFor(ctx, client, packet.relationId);
    const state = stateAt(packet.state, packet.expiresAt, now);
    const holders = await peopleOf(ctx, packet, client);
    const reached = (await linkHolders(ctx, packet, client, holders)).flatMap(({ role, recipient: r }) =>
      r.contact ? [{ role, masked: r.contact.masked }] : [],
    );
    const people = await inOrder(holders, async (p) => ({
      relationId: p.relationId ?? null,
      name: p.name,
      kind: p.kind,
      role: p.role,
      live: p.live,
      masked: (await recipientFor(ctx, client, p.relationId ?? null)).contact?.masked,
    }));
    const staff = new Map((await repo.staff.all(practice.id)).map((s) => [`staff:${s.id}`, s.name]));
    const letters = (await repo.outbox.ofPacket(packetId)).filter(
      (m) => m.purpose !== "locked" && m.purpose !== "alert" && m.purpose !== "bounced",
    );
    const around = [
      {
        relationId: null,
        name: nameOf(client),
        kind: "client",
        masked: (await recipientFor(ctx, client, null)).contact?.masked,
      },
      ...(await othersOf(ctx, client, undefined)),
    ];
    return ok({
      id: packetId,
      clientId: client.id,
      clientName: nameOf(client),
      state,
      ...markAndWords(state, (await repo.outbox.troubles(practice.id, [packetId])).get(packetId)),
      locked: packet.lockedAt !== null,
      maySee: may(ctx, "answers.read"),
      expiresAt: packet.expiresAt,
      titles: await titlesOf(ctx, packet),
      visit: visit && {
        id: visit.id,
        startsAt: visit.startsAt,
        visitType: visit.visitType,
        practitioner: visit.staffName,
      },
      people,
      others: around
        .filter((o) => !people.some((p) => p.live && p.relationId === o.relationId))
        .map(({ relationId, name, kind, masked }) => ({ relationId, name, kind, masked })),
      repeats: packet.repeats,
      leaflets: (await repo.leaflets.all(practice.id))
        .filter((l) => packet.leaflets.includes(l.id))
        .map((l) => l.title),
      look: isOpen(state) && (await repo.practices.pages(practice.id)).look && may(ctx, "answers.read"),
      dueOn: packet.dueOn,
      language: languageOf(client, packet),
      personalLine: repo.packets.unseal<string>(packet, "personalLine"),
      lastLetterAt: packet.nudgedAt ?? packet.sentAt ?? packet.createdAt,
      recipient: {
        name: recipient.name,
        relation: recipient.relation,
        masked: recipient.contact?.masked,
        ended: recipient.ended,
      },
      reached,
      letters: letters.map(({ id, createdAt, purpose, state: is, openedAt, trouble }) => ({
        id,
        at: createdAt,
        purpose,
        state: is,
        openedAt,
        trouble,
      })),
      steps: [
        ...(await repo.journal.latest(practice.id, 200, `packet:${packetId}`))
          .filter((r) => r.action !== "answer.save")
          .map(({ at, action, seq, detail, actor }) => ({
            at,
            action: (action === "packet.send" && detail["by"] === "link"
              ? "packet.made"
              : action) satisfies StepAction as StepAction,
            key: String(seq),
            ...whoDid(
              staff.get(actor) ?? (actor.startsWith("client:") && holders.length === 1 ? holders[0]?.name : undefined),
            ),
          }))
          .reverse(),
        ...letters.flatMap((message) => [
          {
            at: message.createdAt,
            action: "letter" as const,
            key: message.id,
            who: message.toName,
            letter: { purpose: message.purpose, state: message.state },
          },
          ...(message.openedAt
            ? [
                {
                  at: message.openedAt,
                  action: "letter.opened" as const,
                  key: `${message.id} opened`,
                  who: message.toName,
                },
              ]
            : []),
        ]),
        ...(await sectionSteps(ctx, packet)),
      ].sort((a, b) => instantMs(a.at) - instantMs(b.at)),
    });
  },
});
const whoDid = (who: string | undefined): { who?: string } => (who === undefined ? {} : { who });
async function titlesOf({ repo }: Context, packet: Packet): Promise<string[]> {
  return inOrder(await repo.packets.parts(packet.id), async (p) => (await repo.versions.definition(p.versionId)).title);
}
/** When the last answer of each section was given. Names of sections, never of questions or answers. */
async function sectionSteps({ repo }: Context, packet: Packet): Promise<PacketJourney["steps"]> {
  const parts = await inOrder(await repo.packets.parts(packet.id), async (part) => {
    const questionnaire = await repo.versions.definition(part.versionId);
    const given = await repo.answers.given(part.id);
    return sectionsOf(questionnaire).flatMap((section) => {
      const ids = new Set(allItems({ ...questionnaire, items: section.items }).map((i) => i.linkId));
      const last = given
        .filter((g) => ids.has(linkIdOf(g.key)))
        .map((g) => g.at)
        .sort()
        .at(-1);
      return last
        ? [{ at: last, action: "section" as const, key: `${part.id} ${section.id}`, what: section.title }]
        : [];
    });
  });
  return parts.flat();
}
