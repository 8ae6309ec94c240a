"use client";
import { isTrouble } from "@/core/consent";
import { dateWords } from "@/core/questionnaire";
import type { Right } from "@/core/team";
import { ButtonLink } from "@/ui/kit/button-link";
import { ActionForm } from "@/ui/kit/form";
import { Fold, ListLine, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { ConsentEntry, ConsentView } from "@/usecases/consent";
import { withdrawConsentAction } from "../../consents/actions";

export interface ClientConsentsProps {
  readonly clientId: string;
  readonly clientName: string;
  readonly lines: readonly ConsentEntry[];
  readonly rights: readonly Right[];
}
/** What one client agreed to: which text, by whom, until when; withdrawn and renewed. */
export function ClientConsents({ clientId, clientName, lines, rights }: ClientConsentsProps) {
  return (
    <Page
      title={
        <>
          Consents of <bdi>{clientName}</bdi>
        </>
      }
      margin={`${lines.length} ${lines.length === 1 ? "text" : "texts"}`}
    >
      <Strip as="nav" aria-label="This client">
        {rights.includes("chart.read") && <Link href={`/people/${clientId}`}>Chart</Link>}
        <Link href="/people/consents">Everybody’s</Link>
        {rights.includes("export") && <a href={`/api/people/${clientId}/consents.json`}>FHIR</a>}
      </Strip>
      {lines.length === 0 && (
        <MarginRow margin="Nothing">
          They gave no consent, and none is asked of them. <Link href={`/people/${clientId}/send`}>Send one</Link>
        </MarginRow>
      )}
      {lines.map((line) => (
        <OneText key={line.questionnaireId} line={line} clientId={clientId} rights={rights} />
      ))}
    </Page>
  );
}
function OneText({
  line,
  clientId,
  rights,
}: {
  readonly line: ConsentEntry;
  readonly clientId: string;
  readonly rights: readonly Right[];
}) {
  const fine = !isTrouble(line.state);
  const [newest, ...earlier] = line.given;
  return (
    <section aria-label={line.title}>
      <SectionTitle>
        <bdi>{line.title}</bdi>
      </SectionTitle>
      <MarginRow margin={<strong>{line.words}</strong>} tone={fine ? "plain" : "attention"}>
        <Cluster $gap="0.4rem 1.2rem">
          {newest ? (
            <GivenWords given={newest} />
          ) : (
            <span>{line.asked ? "It is on its way." : "It was never given."}</span>
          )}
          {line.asked && newest && <Soft>Asked for again.</Soft>}
          {line.inUse && !line.asked && rights.includes("packet.send") && (
            <ButtonLink
              href={`/people/${clientId}/send?q=${line.questionnaireId}`}
              weight={fine ? "plain" : "primary"}
              aria-label={`${newest ? "Renew" : "Send"} ${line.title}`}
            >
              {newest ? "Renew" : "Send it"}
            </ButtonLink>
          )}
        </Cluster>
      </MarginRow>
      {newest && !newest.withdrawnAt && rights.includes("packet.send") && (
        <MarginRow margin="">
          <Fold>
            <summary>Withdraw it for them</summary>
            <ActionForm
              action={withdrawConsentAction}
              submit="Withdraw"
              weight="danger"
              hidden={{ consentId: newest.id }}
            >
              <TextField name="reason" label="What they said" long />
            </ActionForm>
          </Fold>
        </MarginRow>
      )}
      {earlier.length > 0 && (
        <ul>
          {earlier.map((one) => (
            <ListLine key={one.id} margin="Before">
              <GivenWords given={one} />
            </ListLine>
          ))}
        </ul>
      )}
    </section>
  );
}
function GivenWords({ given }: { readonly given: ConsentView }) {
  const { locale } = useTimeFrame();
  return (
    <Stack $gap="0.1rem">
      <span>
        Version {given.version}, given by <bdi>{given.by.join(", ")}</bdi>, from <Moment at={given.from} as="day" />
        {given.until && (
          <>
            {" "}
            until <Moment at={given.until} as="day" />
          </>
        )}
        {given.outOfDate ? "; the text has changed since" : ""}
      </span>
      {given.talk && (
        <Soft>
          Talked over {dateWords(given.talk.on, locale)}, {given.talk.how.toLowerCase()}
        </Soft>
      )}
      {given.withdrawnAt && (
        <span>
          Withdrawn <Moment at={given.withdrawnAt} /> by <bdi>{given.withdrawnBy}</bdi>
          {given.reason ? (
            <>
              : <bdi>{given.reason}</bdi>
            </>
          ) : null}
        </span>
      )}
      {given.renewedAt && (
        <Soft>
          Renewed <Moment at={given.renewedAt} as="day" />
        </Soft>
      )}
      <Cluster>
        <Link href={`/returns/${given.packetId}/signing`}>Signatures</Link>
        {given.hasPaper && <a href={`/api/parts/${given.partId}/sealed`}>Sealed PDF</a>}
      </Cluster>
    </Stack>
  );
}
