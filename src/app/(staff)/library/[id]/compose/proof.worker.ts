import { builtInFields } from '@/core/chart';
import { proof, type ProofReport } from '@/core/proof';
import type { Questionnaire } from '@/core/questionnaire';

export interface ProofQuestion { readonly turn: number; readonly questionnaire: Questionnaire }
export interface ProofAnswer { readonly turn: number; readonly report: ProofReport }

addEventListener('message', ({ data }: MessageEvent<ProofQuestion>) => {
  postMessage({ turn: data.turn, report: proof(data.questionnaire, builtInFields) } satisfies ProofAnswer);
});
