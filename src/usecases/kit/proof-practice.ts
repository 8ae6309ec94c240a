import type { ProofPractice } from "../../core/proof";
import type { Context } from "./use-case";

/** What Proof knows of this practice: its note layouts quote what is answered, and its words for somebody in danger. */
export async function proofPractice({ repo, practice }: Pick<Context, "repo" | "practice">): Promise<ProofPractice> {
  return {
    quoted: true,
    supportIn: Object.keys((await repo.practices.pages(practice.id)).support ?? {}),
  };
}
