"use client";
import { useState } from "react";
import { anchorText, journalKinds, journalKindWords, journalWords } from "@/core/audit";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { DateField } from "@/ui/kit/date-field";
import { ActionForm } from "@/ui/kit/form";
import { ListLine } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Cluster, Fields, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { JournalEntry, JournalView as Journal } from "@/usecases/audit";
import { LookUpPerson } from "../../look-up-person";
import { useFound } from "../../use-found";
import { checkAnchorAction, findInJournalAction, mailAnchorsAction } from "./actions";
import { ChainCheck } from "./chain-check";

const everything = { who: "", clientId: "", kind: "", from: "", until: "", before: undefined as number | undefined };
type Asked = typeof everything;
/** Stands in a list for no choice. */
const anything = "any";
/** Undefined for what is left open. */
const inAddress = ({ before: _before, ...asked }: Asked): string =>
  new URLSearchParams(Object.entries(asked).filter(([, value]) => value !== "")).toString();

/** Who did what from where, newest first, looked up by person, client, kind and time, and whether the chain holds. */
export function JournalView({ journal }: { readonly journal: Journal }) {
  return (
    <Stack $gap="1.4rem">
      <ChainCheck checked={journal.checked} kept={journal.kept} head={journal.head} />
      <details>
        <summary>Anchors</summary>
        <Anchors journal={journal} />
      </details>
      <Rows journal={journal} />
      <Refused journal={journal} />
    </Stack>
  );
}

function Rows({ journal: { first, people, mayTakeOut } }: { readonly journal: Journal }) {
  const { locale } = useTimeFrame();
  const [asked, setAsked] = useState(everything);
  /** Fields that hold what is typed themselves begin anew with it. */
  const [round, setRound] = useState(0);
  const { answer, settled, unreachable } = useFound(asked, findInJournalAction, first);
  const page = answer ?? first;
  const ask = (change: Partial<Asked>): void => setAsked({ ...asked, before: undefined, ...change });
  return (
    <section>
      <SectionTitle>Rows</SectionTitle>
      <MarginRow margin="Look up">
        <Stack $gap="0.6rem">
          <Fields $least="9.5rem">
            <Pick
              label="By whom"
              value={asked.who || anything}
              options={[
                { value: anything, label: "Anybody" },
                ...Object.entries(people).map(([value, label]) => ({ value, label })),
                { value: "system", label: "The app by itself" },
              ]}
              onChange={(who) => ask({ who: who === anything ? "" : who })}
            />
            <LookUpPerson
              key={round}
              label="About which client"
              value={asked.clientId}
              onChange={(clientId) => ask({ clientId })}
              problem={undefined}
            />
            <Pick
              label="What"
              value={asked.kind || anything}
              options={[
                { value: anything, label: "Anything" },
                ...journalKinds.map((kind) => ({ value: kind, label: journalKindWords[kind] })),
              ]}
              onChange={(kind) => ask({ kind: kind === anything ? "" : kind })}
            />
            <DateField
              key={`from ${round}`}
              label="From"
              locale={locale}
              value={asked.from}
              onChange={(from) => ask({ from })}
            />
            <DateField
              key={`until ${round}`}
              label="Until"
              locale={locale}
              value={asked.until}
              onChange={(until) => ask({ until })}
            />
          </Fields>
          <Cluster>
            {JSON.stringify(asked) !== JSON.stringify(everything) && (
              <Button
                weight="quiet"
                onPress={() => {
                  setAsked(everything);
                  setRound(round + 1);
                }}
              >
                Show everything
              </Button>
            )}
            {mayTakeOut && (
              <a href={`/api/journal.csv?${inAddress(asked)}`} download>
                Take these out as a file
              </a>
            )}
          </Cluster>
        </Stack>
      </MarginRow>
      {unreachable && (
        <MarginRow margin="" tone="attention">
          Nothing can be looked up just now. It goes on when the line is back.
        </MarginRow>
      )}
      <div role="status">
        {settled && page.rows.length === 0 && <MarginRow margin="Nothing">No row is like that.</MarginRow>}
      </div>
      <ol>
        {page.rows.map((row) => (
          <OneRow key={row.seq} row={row} />
        ))}
      </ol>
      <MarginRow margin="">
        <Cluster>
          {asked.before !== undefined && (
            <Button weight="plain" onPress={() => ask({})}>
              Newest rows
            </Button>
          )}
          {page.before !== undefined && (
            <Button weight="plain" onPress={() => setAsked({ ...asked, before: page.before })}>
              Earlier rows
            </Button>
          )}
        </Cluster>
      </MarginRow>
    </section>
  );
}
/** Rows from before refused calls were counted say so in their own. */
const wordsOf = ({ action }: JournalEntry): string => journalWords[action] ?? "Something was refused";
function OneRow({ row }: { readonly row: JournalEntry }) {
  const { client } = row;
  return (
    <ListLine margin={<Moment at={row.at} />}>
      <span className="figures">{row.seq}</span> · {wordsOf(row)}
      {client && (
        <>
          :{" "}
          {client.isErased ? (
            client.name
          ) : (
            <Link href={`/people/${client.id}`}>
              <bdi>{client.name}</bdi>
            </Link>
          )}
        </>
      )}
      {row.colleague !== undefined && (
        <>
          : <bdi>{row.colleague}</bdi>
        </>
      )}{" "}
      <Soft>
        <bdi>{row.by}</bdi>
        {row.address === "" ? "" : ` from ${row.address}`}
      </Soft>
    </ListLine>
  );
}

function Refused({ journal: { refusals, people } }: { readonly journal: Journal }) {
  if (refusals.length === 0) return null;
  return (
    <section>
      <SectionTitle>Refused</SectionTitle>
      <ul>
        {refusals.map(({ useCase, actor, count, firstAt, lastAt, address }) => (
          <ListLine key={`${useCase} ${actor}`} margin={<Moment at={lastAt} />}>
            {useCase.replaceAll("-", " ")}, {count === 1 ? "once" : `${count} times`}{" "}
            <Soft>
              asked for by {people[actor] ?? actor}, last from {address}
              {count > 1 && (
                <>
                  , first on <Moment at={firstAt} />
                </>
              )}
            </Soft>
          </ListLine>
        ))}
      </ul>
    </section>
  );
}

/** Where it stood, written down outside the database, and whether it still goes through what was. */
function Anchors({ journal: { kept, mailsAnchors } }: { readonly journal: Journal }) {
  const [on, setOn] = useState(mailsAnchors === true);
  return (
    <section>
      {kept && (
        <MarginRow margin={<Moment at={kept.at} />}>
          <code style={{ overflowWrap: "anywhere" }}>{anchorText(kept)}</code>{" "}
          <Soft>Where the journal stood, for you to keep anywhere: on paper, in a letter.</Soft>
        </MarginRow>
      )}
      <MarginRow margin="Check one">
        <ActionForm action={checkAnchorAction} submit="Check" weight="plain">
          <TextField
            name="text"
            label="An anchor that you kept"
            help="The line that begins with “journal”."
            dir="ltr"
          />
        </ActionForm>
      </MarginRow>
      {mailsAnchors !== undefined && (
        <MarginRow margin="By mail">
          <ActionForm action={mailAnchorsAction} submit="Save" weight="plain" hidden={{ on: String(on) }}>
            <Checkbox isSelected={on} onChange={setOn} label="Owners get the day’s anchor by mail" />
          </ActionForm>
        </MarginRow>
      )}
    </section>
  );
}
