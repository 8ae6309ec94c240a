import type { Metadata } from "next";
import { cache } from "react";
import { application, useCases } from "@/server";
import { shareWords } from "@/i18n/share-words";
import { TimeFrameProvider } from "@/ui/kit/time";
import { load } from "../../../_server/run";
import { SharedScores } from "./shared-scores";

/** Loaded once, for the page and its title. */
const look = cache(async (clientId: string) => load(useCases.sharedScores, { clientId }));
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  readonly searchParams: Promise<{ readonly of?: string }>;
}
/** No name: the title of a window is seen too. */
export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: { absolute: shareWords((await look((await params).clientId)).language).title } };
}
/** One client's own scores for a screen that they see too. Nothing else of the practice is on it. */
export default async function SharedPage({ params, searchParams }: Props) {
  const { clientId } = await params;
  const view = await look(clientId);
  const app = await application();
  const practice = await app.practice();
  return (
    <TimeFrameProvider frame={{ locale: view.language, zone: practice?.zone ?? "UTC", now: app.ports.clock.now() }}>
      <SharedScores view={view} clientId={clientId} of={(await searchParams).of} />
    </TimeFrameProvider>
  );
}
