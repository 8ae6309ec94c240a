"use client";
import { useState } from "react";
import styled from "styled-components";
import { findPeople } from "@/core/chart";
import { languageName } from "@/core/shared";
import { ButtonLink } from "@/ui/kit/button-link";
import { TextField } from "@/ui/kit/text-field";
import { ListLine, Name } from "@/ui/kit/ledger";
import { Cluster, MarginRow, Page, Soft } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import type { PersonLine } from "@/usecases/charting";

export function PeopleView({ people }: { readonly people: readonly PersonLine[] }) {
  const [sought, setSought] = useState("");
  const found = findPeople(people, sought, (p) => p.identity);
  return (
    <Page
      title="People"
      margin={`${people.length} clients`}
      actions={
        <Cluster>
          <Sought>
            <TextField
              bare
              label="Name, e-mail, phone or birth date"
              placeholder="Name, e-mail, phone, birth date"
              value={sought}
              onChange={setSought}
            />
          </Sought>
          <ButtonLink href="/send">Send to somebody</ButtonLink>
          <ButtonLink href="/send/many">Send to many</ButtonLink>
        </Cluster>
      }
    >
      {found.length === 0 && <MarginRow margin="">Nobody here is like “{sought}”.</MarginRow>}
      <ul onKeyDown={rowKeys}>
        {found.map((person) => (
          <ListLine key={person.id} margin={person.age === undefined ? "age not known" : `${person.age} years`}>
            <Name href={`/people/${person.id}`} data-row>
              <bdi>{person.name}</bdi>
            </Name>
            {person.calledBy ? <Soft> “{person.calledBy}”</Soft> : null}{" "}
            <Soft>
              · {person.reach}
              {person.language === "en" ? "" : ` · reads ${languageName(person.language)}`}
            </Soft>
          </ListLine>
        ))}
      </ul>
    </Page>
  );
}
const Sought = styled.div`
  width: min(17rem, 80vw);
`;
