"use client";
import { Link } from "@/ui/kit/link";
import { useState } from "react";
import styled from "styled-components";
import { findPeople } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import { TextField } from "@/ui/kit/text-field";
import { MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import { useTimeFrame } from "@/ui/kit/time";
import { NewClient } from "./new-client";
import type { PersonLine } from "@/usecases/charting";

export interface FindViewProps {
  readonly requestId: string;
  readonly asked: string | undefined;
  readonly people: readonly PersonLine[];
}
const mostShown = 8;

/** Whom to send to: somebody who is here, found by what is known of them, or somebody new. */
export function FindView({ people, asked, requestId }: FindViewProps) {
  const { locale } = useTimeFrame();
  const [sought, setSought] = useState("");
  const found = sought.trim() === "" ? [] : findPeople(people, sought, (p) => p.identity);
  const query = asked ? `?q=${asked}` : "";
  return (
    <Page title="Send to somebody" margin={`${people.length} clients`}>
      <MarginRow margin="Find">
        <TextField label="Name, e-mail, phone or birth date" value={sought} onChange={setSought} autoFocus />
      </MarginRow>
      {sought.trim() !== "" && found.length === 0 && (
        <MarginRow margin="">Nobody here is like that. Add them below.</MarginRow>
      )}
      <ul onKeyDown={rowKeys}>
        {found.slice(0, mostShown).map((part) => (
          <li key={part.id}>
            <MarginRow
              margin={part.identity.birthDate ? dateWords(part.identity.birthDate, locale) : "birth date not known"}
            >
              <Client href={`/people/${part.id}/send${query}`} data-row>
                <bdi>{part.name}</bdi>
              </Client>{" "}
              <Soft>· {part.reach}</Soft>
            </MarginRow>
          </li>
        ))}
      </ul>
      {found.length > mostShown && (
        <MarginRow margin="">
          <Soft>and {found.length - mostShown} more: type on.</Soft>
        </MarginRow>
      )}
      <SectionTitle>New client</SectionTitle>
      <NewClient
        requestId={requestId}
        hidden={{ asked: asked ?? "" }}
        hrefOf={(clientId) => `/people/${clientId}/send${query}`}
      />
    </Page>
  );
}

const Client = styled(Link)`
  font: 600 1.08rem/1.3 var(--serif);
  color: var(--ink);
  text-decoration-color: var(--rule-strong);
`;
