import type { ChartField } from "@/core/chart";
import { proof, type ProofPractice, type ProofReport } from "@/core/proof";
import { allQuestions, loadPatterns, type Questionnaire } from "@/core/questionnaire";

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

addEventListener("message", ({ data: { turn, questionnaire, fields, practice } }: MessageEvent<ProofQuestion>) => {
  void (async () => {
    if (allQuestions(questionnaire).some((question) => question.pattern !== undefined)) await loadPatterns();
    postMessage({ turn, report: proof(questionnaire, fields, practice) } satisfies ProofAnswer);
  })();
});
