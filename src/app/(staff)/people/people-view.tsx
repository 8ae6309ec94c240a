"use client";
import { useState } from "react";
import styled from "styled-components";
import { languageName } from "@/core/shared";
import type { Right } from "@/core/team";
import { ButtonLink } from "@/ui/kit/button-link";
import { Checkbox } from "@/ui/kit/choice-fields";
import { Link } from "@/ui/kit/link";
import { TextField } from "@/ui/kit/text-field";
import { ListLine, Name } from "@/ui/kit/ledger";
import { NamesPages } from "@/ui/kit/names-pages";
import { Cluster, MarginRow, Page, Soft } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import type { People, PersonLine } from "@/usecases/charting";
import { findPeopleAction } from "../actions";
import { useFound } from "../use-found";

export interface PeopleViewProps {
  readonly first: People;
  readonly rights: readonly Right[];
}
const counted = (n: number): string => (n === 1 ? "1 client" : `${n} clients`);

export function PeopleView({ first, rights }: PeopleViewProps) {
  const [sought, setSought] = useState("");
  const [archived, setArchived] = useState(false);
  const [from, setFrom] = useState(0);
  const may = (right: Right): boolean => rights.includes(right);
  const { answer, unreachable } = useFound({ sought: sought.trim(), archived, from }, findPeopleAction, first);
  const { lines, total, previous, next } = answer ?? first;
  const ask = (set: () => void): void => {
    set();
    setFrom(0);
  };
  return (
    <Page
      title="People"
      margin={<span role="status">{archived ? `${total} archived` : counted(total)}</span>}
      actions={
        <Cluster>
          <Sought>
            <TextField
              bare
              label="Name, e-mail, phone or birth date"
              placeholder="Name, e-mail, phone, birth date"
              value={sought}
              onChange={(typed) => ask(() => setSought(typed))}
            />
          </Sought>
          {may("packet.send") && <ButtonLink href="/send">Send to somebody</ButtonLink>}
          {may("packet.send") && <ButtonLink href="/send/many">Send to many</ButtonLink>}
        </Cluster>
      }
    >
      {unreachable && (
        <MarginRow margin="" tone="attention">
          Nobody can be looked up just now. It goes on when the line is back.
        </MarginRow>
      )}
      {lines.length === 0 && <MarginRow margin="">{emptyWords(sought, archived)}</MarginRow>}
      <ul onKeyDown={rowKeys}>
        {lines.map((person) => (
          <OnePerson key={person.id} person={person} />
        ))}
      </ul>
      {(previous !== undefined || next !== undefined) && (
        <MarginRow margin="">
          <NamesPages from={from} shown={lines.length} all={total} previous={previous} next={next} onTurn={setFrom} />
        </MarginRow>
      )}
      <MarginRow margin="">
        <Cluster $gap="0.25rem 1.25rem">
          <Checkbox isSelected={archived} onChange={(on) => ask(() => setArchived(on))} label="Archived clients" />
          {may("people.write") && <Link href="/people/new">Add a client</Link>}
          {may("people.write") && <Link href="/people/bring">Bring clients from a file</Link>}
          {may("answers.read") && <Link href="/people/caseload">Caseload</Link>}
          {may("packet.send") && <Link href="/people/consents">Consent register</Link>}
          {may("export") && (
            <a href="/api/people.csv" download>
              Take clients out as a file
            </a>
          )}
          {!may("clients.all") && <Link href="/people/open">Open a colleague’s client</Link>}
        </Cluster>
      </MarginRow>
    </Page>
  );
}
function emptyWords(sought: string, archived: boolean): string {
  if (sought.trim() !== "") return `Nobody here is like “${sought.trim()}”.`;
  return archived
    ? "Nobody is archived."
    : "There are no clients yet. Add the first when you send to somebody, make a visit, or bring them from a file.";
}
function OnePerson({ person }: { readonly person: PersonLine }) {
  return (
    <ListLine margin={person.age === undefined ? "age not known" : `${person.age} years`}>
      <Name href={`/people/${person.id}`} data-row>
        <bdi>{person.name}</bdi>
      </Name>
      {person.calledBy ? <Soft> “{person.calledBy}”</Soft> : null}{" "}
      <Soft>
        · {person.reach}
        {person.language === "en" ? "" : ` · reads ${languageName(person.language)}`}
        {person.archived ? " · archived" : ""}
      </Soft>
    </ListLine>
  );
}
const Sought = styled.div`
  width: min(17rem, 80vw);
`;
