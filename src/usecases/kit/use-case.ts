import type { Schema } from "yup";
import type { DirectoryView } from "../../core/chart";
import type { JournalAction } from "../../core/audit";
import type { PostPurpose } from "../../core/messages";
import type { Id, Instant, Result } from "../../core/shared";
import type { Clock } from "../../adapters/clock";
import type { HandOffs } from "../../adapters/apart";
import type { KeptErasures } from "../../adapters/kept-erasures";
import type { KeptHeads } from "../../adapters/kept-heads";
import type { Passkeys } from "../../adapters/passkeys";
import type { Passwords } from "../../adapters/passwords";
import type { Certificates } from "../../adapters/seal/certificates";
import type { PaperChecks } from "../../adapters/paper-checks";
import type { PdfForms } from "../../adapters/pdf-forms";
import type { Pictures } from "../../adapters/pictures";
import type { Scanner } from "../../adapters/scanner";
import type { Watch } from "../../adapters/watch";
import type { OutgoingMessage, PostDriver } from "../../adapters/post";
import type { Random } from "../../adapters/random";
import type { SecondFactor } from "../../adapters/second-factor";
import type { JournalLine, KnownClient, Practice, Repositories, Sight } from "../../db/repositories";
import type { Sealer } from "../../core/shared";
import type { Access } from "./access";
import type { Actor, ClientActor, StaffActor } from "./actor";

/** Everything outside that a use case may reach, besides the repositories. */
export interface Ports {
  readonly clock: Clock;
  readonly random: Random;
  readonly sealer: Sealer;
  readonly passwords: Passwords;
  readonly secondFactor: SecondFactor;
  readonly passkeys: Passkeys;
  readonly post: PostDriver;
  readonly pictures: Pictures;
  readonly pdf: PdfForms;
  readonly papers: PaperChecks;
  readonly certificates: Certificates;
  readonly handOffs: HandOffs;
  readonly scanner: Scanner;
  readonly keptHeads: KeptHeads;
  readonly keptErasures: KeptErasures;
  readonly watch: Watch;
  /** SHA-1 in base64: what FHIR calls an attachment's hash. */
  readonly sha1: (bytes: Uint8Array) => string;
  readonly sha256: (data: string | Uint8Array) => string;
  /** Where the app is reached, for links in letters; no slash at the end. */
  readonly origin: string;
  /** Where time-stamps come from (RFC 3161 over HTTP); the stand-in's, where it is not said. */
  readonly timeStampUrl?: string;
  /** In the demo only: the password of everybody in it. */
  readonly demoPassword?: string;
}

export interface Context<A extends Actor = Actor> extends Ports {
  readonly repo: Repositories;
  readonly actor: A;
  readonly practice: Practice;
  /** Whose clients the repositories and the directory give anything of. */
  readonly sight: Sight;
  /** One moment for the whole use case. */
  readonly now: Instant;
  /** Everybody in sight, to be found by what is known of them. Asked before anything is written. */
  directory(): Promise<DirectoryView<KnownClient>>;
  /** Notes a journal line; written at the end, in the same transaction. Ids only: never a name, never an answer. */
  journal(action: JournalAction, subject: string, detail?: Readonly<Record<string, string | number | boolean>>): void;
  /** A journal line for a `statement`, whose repository method writes it along with its rows. */
  line(
    action: JournalAction,
    subject: string,
    detail?: Readonly<Record<string, string | number | boolean>>,
  ): JournalLine;
  /** Puts a message in the post room; handed over once the transaction is through. */
  send(
    message: OutgoingMessage & { readonly purpose: PostPurpose; readonly packetId: Id<"Packet"> | null },
  ): Promise<Id<"Message">>;
  /** Hands over what is due once the transaction is through; `send` does so by itself. */
  handOver(): void;
  /** Tells open pages that something changed, once the transaction is through. */
  tell(topic: "returns" | "erased" | "seal"): void;
}

/** What there is before the transaction: what is read or counted here stands by itself. */
export type Beforehand<A extends Actor = Actor> = Pick<Context<A>, keyof Ports | "repo" | "actor" | "practice" | "now">;

/** Failures any use case can end with, besides its own. */
export type CommonError =
  | { readonly reason: "not-allowed" }
  | { readonly reason: "not-found" }
  /** The database does not answer just now. Nothing was done. */
  | { readonly reason: "busy" }
  | { readonly reason: "invalid"; readonly fields: Readonly<Record<string, string>> };

type ActorFor<A extends Access> = A extends "anyone"
  ? Actor
  : A extends "client" | "client.fill" | "client.sign" | "client.any"
    ? ClientActor
    : StaffActor;

/**
 * One thing people do. A returned failure keeps what was written before it (a wrong code must stay counted); a thrown
 * error takes everything back. A `command` must leave a journal line when it succeeds; the runner checks. A `statement`
 * is a command that writes once, everything and its journal line in one SQL statement, and so needs no transaction.
 */
export interface UseCase<I, O, E, A extends Access = Access> {
  readonly name: string;
  readonly kind: "query" | "command" | "statement";
  readonly access: A;
  readonly input: Schema<I>;
  /**
   * What takes long and needs no database, such as looking into a file: once access and input are right, before the
   * transaction.
   */
  readonly before?: (context: Beforehand<ActorFor<A>>, input: I) => Promise<unknown>;
  readonly run: (context: Context<ActorFor<A>>, input: I, before: unknown) => Promise<Result<O, E>>;
}

export const query = <I, O, E, A extends Access>(u: Omit<UseCase<I, O, E, A>, "kind">): UseCase<I, O, E, A> => ({
  kind: "query",
  ...u,
});
type Written<I, O, E, A extends Access, B> = Omit<UseCase<I, O, E, A>, "kind" | "before" | "run"> & {
  readonly before?: (context: Beforehand<ActorFor<A>>, input: I) => Promise<B>;
  readonly run: (context: Context<ActorFor<A>>, input: I, before: B) => Promise<Result<O, E>>;
};
export const command = <I, O, E, A extends Access, B = undefined>(u: Written<I, O, E, A, B>): UseCase<I, O, E, A> => ({
  kind: "command",
  ...u,
  run: (context, input, before) => u.run(context, input, before as B),
});

export const statement = <I, O, E, A extends Access>(u: Omit<UseCase<I, O, E, A>, "kind">): UseCase<I, O, E, A> => ({
  kind: "statement",
  ...u,
});

export const notFound = { ok: false, error: { reason: "not-found" } } as const;
