import type { ChartField } from "@/core/chart";
import { proof, type ProofPractice, type ProofReport } from "@/core/proof";
import type { Questionnaire } from "@/core/questionnaire";

export interface ProofQuestion {
  readonly turn: number;
  readonly questionnaire: Questionnaire;
  readonly fields: readonly ChartField[];
  readonly practice: ProofPractice;
}
export interface ProofAnswer {
  readonly turn: number;
  readonly report: ProofReport;
}

addEventListener("message", ({ data }: MessageEvent<ProofQuestion>) => {
  postMessage({ turn: data.turn, report: proof(data.questionnaire, data.fields, data.practice) } satisfies ProofAnswer);
});
