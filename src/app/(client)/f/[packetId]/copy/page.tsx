import type { Metadata } from "next";
import { application, useCases } from "@/server";
import { clientWords } from "@/i18n/client-words";
import { clientLanguage } from "@/i18n/languages";
import { pinned } from "@/i18n/pinned";
import { Doorstep } from "@/ui/kit/doorstep";
import { TimeFrameProvider } from "@/ui/kit/time";
import { lookAtPacket } from "../../../../_server/client-look";
import { runAsClient } from "../../../../_server/run";
import { CopyPage } from "./copy-page";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const result = await lookAtPacket((await params).packetId);
  return { title: { absolute: clientWords("fill", result.ok ? result.value.language : "en")("copyHere") } };
}
/** What somebody wrote, as a page: the same as on the PDF. */
export default async function Copy({ params }: Props) {
  const { packetId } = await params;
  const app = await application();
  const result = await runAsClient(packetId, useCases.clientPaper, {});
  if (!result.ok)
    return (
      <Doorstep name={(await app.practice())?.name ?? ""}>
        <p>{clientWords("fill")("outside")}</p>
      </Doorstep>
    );
  const paper = result.value;
  const language = clientLanguage(paper.language);
  const t = clientWords("fill", language);
  return (
    <TimeFrameProvider frame={{ locale: pinned(paper.locale), zone: paper.zone, now: app.ports.clock.now() }}>
      <CopyPage
        paper={paper}
        language={language}
        words={{ notAnswered: t("notAnswered"), pdf: t("copy"), back: t("back") }}
        base={`/f/${packetId}`}
      />
    </TimeFrameProvider>
  );
}
