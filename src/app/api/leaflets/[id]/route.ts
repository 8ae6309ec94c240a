import { useCases } from "@/server";
import { givenFile } from "../../../_server/files";
import { runAsStaff } from "../../../_server/run";

interface Props {
  readonly params: Promise<{ readonly id: string }>;
}
export async function GET(_: Request, { params }: Props): Promise<Response> {
  const result = await runAsStaff(useCases.openLeaflet, await params);
  return givenFile(result.ok ? { ...result.value.file, bytes: result.value.bytes } : undefined);
}
