import type { Instant, Result } from "../../core/shared";
import type { CertificateFacts, Pkcs12Problem, SealIdentity } from "./certificate";

export interface BroughtIdentity {
  readonly identity: SealIdentity;
  readonly facts: CertificateFacts;
}
/** Certificates somebody brings, and what those that are here say of themselves. */
export interface Certificates {
  read(
    pkcs12: Uint8Array,
    password: string,
    now: Instant,
  ): Promise<Result<BroughtIdentity, Pkcs12Problem | "too-costly" | "busy">>;
  facts(der: string): Promise<CertificateFacts>;
}
