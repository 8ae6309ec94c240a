import { useCases } from "@/server";
import { csvFile } from "../../_server/files";
import { runAsStaff } from "../../_server/run";

export async function GET(): Promise<Response> {
  const result = await runAsStaff(useCases.allScoresTable, {});
  return csvFile(result.ok ? result.value : undefined, "scores.csv");
}
