import { startTransition, useEffect, useRef, useState } from "react";
import type { ChartField } from "@/core/chart";
import type { ProofPractice, ProofReport } from "@/core/proof";
import type { Questionnaire } from "@/core/questionnaire";
import type { ProofAnswer, ProofQuestion } from "./proof.worker";

const pause = 200;

/** Proof of what is being written, a moment after each change, computed beside the page. */
export function useProof(
  questionnaire: Questionnaire,
  fields: readonly ChartField[],
  practice: ProofPractice,
): ProofReport | undefined {
  const [report, setReport] = useState<ProofReport>();
  const worker = useRef<Worker>(undefined);
  const turn = useRef(0);
  useEffect(() => {
    const made = new Worker(new URL("./proof.worker.ts", import.meta.url), { type: "module" });
    // An answer about an older text than the one last asked about is thrown away.
    made.onmessage = ({ data }: MessageEvent<ProofAnswer>) => {
      if (data.turn === turn.current) startTransition(() => setReport(data.report));
    };
    worker.current = made;
    return () => made.terminate();
  }, []);
  useEffect(() => {
    const timer = setTimeout(
      () =>
        worker.current?.postMessage({ turn: ++turn.current, questionnaire, fields, practice } satisfies ProofQuestion),
      pause,
    );
    return () => clearTimeout(timer);
  }, [questionnaire, fields, practice]);
  return report;
}
