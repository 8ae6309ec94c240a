import type { Metadata } from "next";
import { application } from "@/server";
import { clientWords, fillMessages } from "@/i18n/client-words";
import { clientLanguage } from "@/i18n/languages";
import { pinned } from "@/i18n/pinned";
import { Doorstep } from "@/ui/kit/doorstep";
import { SupportWords } from "@/ui/fill/support-words";
import { TimeFrameProvider } from "@/ui/kit/time";
import { Receipt } from "@/ui/fill/receipt";
import { lookAtConsents, lookAtPacket, lookAtSigning, lookAtTakeHome } from "../../../_server/client-look";
import { FillPage as Filling } from "./filling";
import { OwnConsentsIsland } from "./own-consents";
import { SignerPage } from "./signer";
import { TakeHome } from "./take-home";

interface Props {
  readonly params: Promise<{ readonly packetId: string }>;
  readonly searchParams: Promise<{ readonly s?: string | string[] }>;
}
export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { packetId } = await params;
  const packet = await lookAtPacket(packetId);
  const result = packet.ok ? packet : await lookAtSigning(packetId);
  return { title: { absolute: clientWords("door", result.ok ? result.value.language : "en")("page") } };
}
export default async function FillPage({ params, searchParams }: Props) {
  const { packetId } = await params;
  const step = (await searchParams).s;
  const app = await application();
  const result = await lookAtPacket(packetId);
  const takeHome = result.ok && result.value.isTakeHome ? await lookAtTakeHome(packetId) : undefined;
  if (takeHome?.ok) return <TakeHome view={takeHome.value} now={app.ports.clock.now()} />;
  const signing = result.ok ? undefined : await lookAtSigning(packetId);
  if (signing?.ok) return <Signing view={signing.value} consents={await lookAtConsents(packetId)} />;
  if (!result.ok)
    return (
      <Doorstep name={(await app.practice())?.name ?? ""}>
        <p>{clientWords("fill")("outside")}</p>
      </Doorstep>
    );
  const view = result.value;
  const language = clientLanguage(view.language);
  const t = clientWords("fill", language);
  const frame = {
    locale: pinned(language === "en" ? view.locale : language),
    zone: view.zone,
    now: app.ports.clock.now(),
  };
  if (view.state === "returned" || view.state === "settled")
    return (
      <Doorstep name={view.practiceName} logo={view.logo} language={language}>
        <h1>{t("doneTitle")}</h1>
        <p dir="auto" style={{ whiteSpace: "pre-wrap" }}>
          {view.finish.text ?? t("doneText", { practice: view.practiceName })}
        </p>
        {view.returned && <Receipt returned={view.returned} words={t} repeats={view.repeats} frame={frame} />}
        {view.support && (
          <p>
            <SupportWords support={view.support} language={language} words={t} />
          </p>
        )}
        {view.leaflets.length > 0 && (
          <>
            <p>{t("leaflets")}</p>
            <ul>
              {view.leaflets.map((l) => (
                <li key={l.id}>
                  <a href={`/f/${view.packetId}/leaflet/${l.id}`} dir="auto">
                    {l.title}
                  </a>
                </li>
              ))}
            </ul>
          </>
        )}
        {view.finish.address && (
          <p>
            <a href={view.finish.address} rel="noreferrer">
              {t("goOn")}: <bdi>{new URL(view.finish.address).host}</bdi>
            </a>
          </p>
        )}
        <OwnConsentsIsland
          packetId={view.packetId}
          consents={await lookAtConsents(packetId)}
          practice={view.practiceName}
          language={language}
          messages={fillMessages(language)}
          frame={frame}
        />
        <p>
          <a href={`/f/${view.packetId}/copy`}>{t("copyHere")}</a>
        </p>
        <p>
          <a href={`/f/${view.packetId}/paper`}>{t("copy")}</a>
        </p>
      </Doorstep>
    );
  if (view.parts.length === 0)
    return (
      <Doorstep name={view.practiceName} logo={view.logo} language={language}>
        <p>{t("closedText")}</p>
      </Doorstep>
    );
  return (
    <TimeFrameProvider frame={frame}>
      <Filling
        words={{ language, messages: fillMessages(language) }}
        packetId={view.packetId}
        view={view}
        firstStep={typeof step === "string" ? step : undefined}
      />
    </TimeFrameProvider>
  );
}

/** For who signs what others filled in. */
async function Signing({ view, consents }: Pick<Parameters<typeof SignerPage>[0], "view" | "consents">) {
  const language = clientLanguage(view.language);
  const frame = {
    locale: pinned(language === "en" ? view.locale : language),
    zone: view.zone,
    now: (await application()).ports.clock.now(),
  };
  return (
    <TimeFrameProvider frame={frame}>
      <SignerPage words={{ language, messages: fillMessages(language) }} view={view} consents={consents} />
    </TimeFrameProvider>
  );
}
