import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { application, logoPath } from "@/server";
import { clientWords } from "@/i18n/client-words";
import { clientLanguage, clientLanguages, isClientLanguage, languageNames } from "@/i18n/languages";
import { Doorstep } from "@/ui/kit/doorstep";
import { lookAtDoor } from "../../../_server/client-look";
import { Door } from "./door";

interface Props {
  readonly params: Promise<{ readonly token: string }>;
  readonly searchParams: Promise<{ readonly in?: string | string[] }>;
}
const chosenIn = async (searchParams: Props["searchParams"]): Promise<string | undefined> => {
  const wanted = (await searchParams).in;
  return typeof wanted === "string" && isClientLanguage(wanted) ? wanted : undefined;
};
export async function generateMetadata({ params, searchParams }: Props): Promise<Metadata> {
  const result = await lookAtDoor((await params).token);
  return {
    title: {
      absolute: clientWords(
        "door",
        (await chosenIn(searchParams)) ?? (result.ok ? result.value.language : "en"),
      )("page"),
    },
  };
}
export default async function DoorPage({ params, searchParams }: Props) {
  const { token } = await params;
  const chosen = await chosenIn(searchParams);
  const result = await lookAtDoor(token);
  const known = await (await application()).practice();
  const { name: practice = "", address = "" } = known ?? {};
  const logo = known ? logoPath(known) : null;
  if (!result.ok) {
    const t = clientWords("door", chosen);
    const locked = result.error.reason === "locked";
    return (
      <Doorstep name={practice} address={address} logo={logo} language={chosen ?? "en"}>
        <h1>{t(locked ? "lockedTitle" : "closedTitle")}</h1>
        <p>{t(locked ? "locked" : "closed")}</p>
        <Languages language={chosen ?? "en"} />
      </Doorstep>
    );
  }
  // An address runs from left to right, whatever stands around it.
  const { way, channel, codeOut, details, onBehalf, waitSeconds, atOnce, stillIn } = result.value;
  if (stillIn) redirect(`/f/${stillIn}`);
  const masked = `\u2066${result.value.masked}\u2069`;
  const language = chosen ?? clientLanguage(result.value.language);
  const t = clientWords("door", language);
  const whyHere = () => {
    if (way === "details") return "detailsWhy";
    if (way === "read-out") return "readOut";
    if (way === "known") return "known";
    if (way === "none") return "free";
    return "why";
  };
  const wordAsked = () => {
    if (details === "postcode") return "postcode";
    if (onBehalf) return "lastNameOf";
    return "lastName";
  };
  return (
    <Doorstep name={practice} address={address} logo={logo} language={language}>
      <h1>{t("title")}</h1>
      <p>{t(whyHere())}</p>
      <Door
        token={token}
        way={way}
        codeOut={codeOut}
        language={language}
        switched={chosen !== undefined}
        waitSeconds={waitSeconds}
        atOnce={atOnce}
        own={!onBehalf}
        wordIs={details === "postcode" ? "postal-code" : "family-name"}
        words={{
          to: t(channel === "email" ? "toEmail" : "toText", { masked }),
          send: t("send"),
          again: t("again"),
          againIn: t("againIn", { seconds: "{seconds}" }),
          sixDigits: t("sixDigits"),
          codeLabel: t(way === "read-out" ? "readOutLabel" : "codeLabel"),
          birthDate: t(onBehalf ? "birthDateOf" : "birthDate"),
          word: t(wordAsked()),
          codeHelp: t("codeHelp"),
          check: t("check"),
          sent: t(channel === "email" ? "sentEmail" : "sentText", { masked }),
          notMine: t("notMine"),
        }}
      />
      <Languages language={language} />
    </Doorstep>
  );
}

/** The same page in another language; links, so that nothing has to be loaded for them. */
function Languages({ language }: { readonly language: string }) {
  return (
    <nav aria-label={clientWords("fill", language)("language")}>
      {clientLanguages
        .filter((l) => l !== language)
        .map((line) => (
          <a
            key={line}
            href={`?in=${line}`}
            lang={line}
            hrefLang={line}
            style={{ marginInlineEnd: "1.25rem", display: "inline-block", paddingBlock: "0.35rem" }}
          >
            {languageNames[line]}
          </a>
        ))}
    </nav>
  );
}
