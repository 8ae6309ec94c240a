import type { Metadata } from "next";
import { application, useCases } from "@/server";
import { TimeFrameProvider } from "@/ui/kit/time";
import { load } from "../../../_server/run";
import { SharedScores } from "./shared-scores";

// No name: the title of a window is seen too.
export const metadata: Metadata = { title: { absolute: " " } };
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  readonly searchParams: Promise<{ readonly of?: string }>;
}
/** One client's own scores for a screen that they see too. Nothing else of the practice is on it. */
export default async function SharedPage({ params, searchParams }: Props) {
  const { clientId } = await params;
  const view = await load(useCases.sharedScores, { clientId });
  const app = await application();
  const practice = await app.practice();
  return (
    <TimeFrameProvider frame={{ locale: view.language, zone: practice?.zone ?? "UTC", now: app.ports.clock.now() }}>
      <SharedScores view={view} clientId={clientId} of={(await searchParams).of} />
    </TimeFrameProvider>
  );
}
