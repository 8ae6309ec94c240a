"use client";
import { Link } from "@/ui/kit/link";
import { useState } from "react";
import styled from "styled-components";
import { dateWords } from "@/core/questionnaire";
import { TextField } from "@/ui/kit/text-field";
import { MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { rowKeys } from "@/ui/kit/shortcuts";
import { useTimeFrame } from "@/ui/kit/time";
import { NewClient } from "./new-client";
import type { People } from "@/usecases/charting";
import { findPeopleAction } from "../actions";
import { useFound } from "../use-found";

export interface FindViewProps {
  readonly requestId: string;
  readonly asked: string | undefined;
  /** How many clients there are. */
  readonly all: number;
}
const mostShown = 8;
const nobody: People = { lines: [], total: 0, previous: undefined, next: undefined };

/** Whom to send to: somebody who is here, found by what is known of them, or somebody new. */
export function FindView({ all, asked, requestId }: FindViewProps) {
  const { locale } = useTimeFrame();
  const [sought, setSought] = useState("");
  const text = sought.trim();
  const { answer, settled, unreachable } = useFound({ sought: text, most: mostShown }, async (what) =>
    what.sought === "" ? nobody : findPeopleAction(what),
  );
  const { lines, total } = text === "" ? nobody : (answer ?? nobody);
  const query = asked ? `?q=${asked}` : "";
  return (
    <Page title="Send to somebody" margin={`${all} clients`}>
      <MarginRow margin="Find">
        <TextField label="Name, e-mail, phone or birth date" value={sought} onChange={setSought} autoFocus />
      </MarginRow>
      {unreachable && (
        <MarginRow margin="" tone="attention">
          Nobody can be looked up just now. It goes on when the line is back.
        </MarginRow>
      )}
      {text !== "" && settled && lines.length === 0 && (
        <MarginRow margin="">Nobody here is like that. Add them below.</MarginRow>
      )}
      <ul onKeyDown={rowKeys}>
        {lines.map((part) => (
          <li key={part.id}>
            <MarginRow margin={part.birthDate ? dateWords(part.birthDate, locale) : "birth date not known"}>
              <Client href={`/people/${part.id}/send${query}`} data-row>
                <bdi>{part.name}</bdi>
              </Client>{" "}
              <Soft>· {part.reach}</Soft>
            </MarginRow>
          </li>
        ))}
      </ul>
      {total > mostShown && (
        <MarginRow margin="">
          <Soft>and {total - mostShown} more: type on.</Soft>
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
