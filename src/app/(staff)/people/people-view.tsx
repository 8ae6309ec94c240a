"use client";
import { Link } from "@/ui/link";
import { useState } from "react";
import styled from "styled-components";
import { matchesPerson, type ClientIdentity } from "@/core/chart";
import { languageName, type Id } from "@/core/shared";
import { ButtonLink } from "@/ui/button";
import { TextField } from "@/ui/fields";
import { Cluster, MarginRow, Page, Soft } from "@/ui/page";
import { rowKeys } from "@/ui/shortcuts";

export interface PeopleViewProps {
  readonly people: readonly {
    readonly id: Id<"Client">;
    readonly name: string;
    readonly calledBy: string | undefined;
    readonly age: number | undefined;
    readonly reach: string;
    readonly language: string;
    readonly identity: ClientIdentity;
  }[];
}
export function PeopleView({ people }: PeopleViewProps) {
  const [sought, setSought] = useState("");
  const found = people.filter((p) => matchesPerson(p.identity, sought));
  return (
    <Page
      title="People"
      margin={`${people.length} clients`}
      actions={
        <Cluster>
          <ButtonLink href="/send">Send to somebody</ButtonLink>
          <ButtonLink href="/send/many">Send to many</ButtonLink>
        </Cluster>
      }
    >
      <MarginRow margin="Find">
        <TextField label="Name, e-mail, phone or birth date" value={sought} onChange={setSought} />
      </MarginRow>
      {found.length === 0 && <MarginRow margin="">Nobody here is like “{sought}”.</MarginRow>}
      <ul onKeyDown={rowKeys}>
        {found.map((part) => (
          <li key={part.id}>
            <MarginRow margin={<>{part.age === undefined ? "age not known" : `${part.age} years`}</>}>
              <Client href={`/people/${part.id}`} data-row>
                <bdi>{part.name}</bdi>
              </Client>
              {part.calledBy ? <Soft> “{part.calledBy}”</Soft> : null}{" "}
              <Soft>
                · {part.reach}
                {part.language === "en" ? "" : ` · reads ${languageName(part.language)}`}
              </Soft>
            </MarginRow>
          </li>
        ))}
      </ul>
    </Page>
  );
}
const Client = styled(Link)`
  font: 600 1.08rem/1.3 var(--serif);
  color: var(--ink);
  text-decoration-color: var(--rule-strong);
`;
