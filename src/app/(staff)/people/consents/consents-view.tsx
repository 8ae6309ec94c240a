"use client";
import { consentStates, consentWords, isTrouble, type ConsentState } from "@/core/consent";
import type { Right } from "@/core/team";
import { ButtonLink } from "@/ui/kit/button-link";
import { ActionForm } from "@/ui/kit/form";
import { Columns, ListLine, Name, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Cluster, MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import { Moment } from "@/ui/kit/time";
import type { ConsentRegister } from "@/usecases/consent";
import { setNeededAction } from "./actions";

export interface ConsentsViewProps {
  readonly register: ConsentRegister;
  readonly of: string | undefined;
  readonly state: ConsentState | undefined;
  readonly rights: readonly Right[];
}
/** Every consent of the practice's clients, what needs doing first. */
export function ConsentsView({ register, of, state, rights }: ConsentsViewProps) {
  const to = (wish: {
    readonly of?: string | undefined;
    readonly state?: string | undefined;
    readonly from?: number;
  }) => {
    const asked = new URLSearchParams();
    if (wish.of) asked.set("of", wish.of);
    if (wish.state) asked.set("state", wish.state);
    if (wish.from) asked.set("from", String(wish.from));
    return `/people/consents${asked.size > 0 ? `?${asked.toString()}` : ""}`;
  };
  return (
    <Page
      title="Consent register"
      margin={`${register.all} ${register.all === 1 ? "line" : "lines"}`}
      actions={
        rights.includes("export") && (
          <a href="/api/consents.csv" download>
            Take it out as a file
          </a>
        )
      }
    >
      <SectionTitle>Texts</SectionTitle>
      <ul>
        {register.texts.map((text) => (
          <ListLine
            key={text.id}
            margin={text.inUse ? "In use" : "Retired"}
            action={
              text.toRenew > 0 && text.inUse && rights.includes("packet.send") ? (
                <ButtonLink href={`/send/many?renew=${text.id}`} aria-label={`Ask ${text.toRenew} for ${text.title}`}>
                  Ask {text.toRenew}
                </ButtonLink>
              ) : null
            }
          >
            <Cluster $gap="0 1rem">
              <Name href={to({ of: of === text.id ? undefined : text.id, state })} aria-current={of === text.id}>
                <bdi>{text.title}</bdi>
              </Name>
              {text.inUse && rights.includes("library.write") ? (
                <>
                  {text.neededByAll && <Soft>asked of every client</Soft>}
                  <ActionForm
                    action={setNeededAction}
                    submit={text.neededByAll ? "No longer" : "Ask it of every client"}
                    weight="quiet"
                    hidden={{ questionnaireId: text.id, needed: text.neededByAll ? "no" : "yes" }}
                  />
                </>
              ) : (
                <Soft>{text.neededByAll ? "asked of every client" : ""}</Soft>
              )}
            </Cluster>
          </ListLine>
        ))}
      </ul>
      <Strip as="nav" aria-label="By state">
        <Link href={to({ of })} aria-current={state === undefined ? "page" : undefined}>
          All
        </Link>
        {consentStates.map((one) => (
          <Link key={one} href={to({ of, state: one })} aria-current={state === one ? "page" : undefined}>
            {consentWords[one]} {register.counts[one]}
          </Link>
        ))}
      </Strip>
      {register.lines.length === 0 && <MarginRow margin="">Nothing like that is in the register.</MarginRow>}
      <ol onKeyDown={rowKeys}>
        {register.lines.map((line) => {
          const [given] = line.given;
          return (
            <ListLine
              key={`${line.clientId} ${line.questionnaireId}`}
              tone={isTrouble(line.state) ? "attention" : "plain"}
              margin={
                <>
                  <strong>{line.words}</strong>
                  {line.asked && line.state !== "asked" ? ", asked again" : ""}
                </>
              }
            >
              <Columns>
                <Name href={`/people/${line.clientId}/consents`} data-row>
                  <bdi>{line.clientName}</bdi>
                </Name>
                <span>
                  <bdi>{line.title}</bdi>{" "}
                  {given && (
                    <Soft>
                      version {given.version}, by <bdi>{given.by.join(", ")}</bdi>, from{" "}
                      <Moment at={given.from} as="day" />
                      {given.until && (
                        <>
                          {" "}
                          until <Moment at={given.until} as="day" />
                        </>
                      )}
                    </Soft>
                  )}
                </span>
              </Columns>
            </ListLine>
          );
        })}
      </ol>
      {(register.previous !== undefined || register.next !== undefined) && (
        <MarginRow margin="">
          <Cluster>
            {register.previous !== undefined && <Link href={to({ of, state, from: register.previous })}>Before</Link>}
            {register.next !== undefined && <Link href={to({ of, state, from: register.next })}>More</Link>}
          </Cluster>
        </MarginRow>
      )}
    </Page>
  );
}
