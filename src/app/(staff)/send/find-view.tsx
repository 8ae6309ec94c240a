"use client";
import { Link } from "@/ui/kit/link";
import { useState } from "react";
import styled from "styled-components";
import { findPeople } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import { clientLanguages } from "@/i18n/languages";
import { languageName } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { DateField } from "@/ui/kit/date-field";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Fields, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { rowKeys } from "@/ui/kit/shortcuts";
import { useTimeFrame } from "@/ui/kit/time";
import { addClientAction, type AddState } from "./actions";
import type { PersonLine } from "@/usecases/charting";

export interface FindViewProps {
  readonly requestId: string;
  readonly asked: string | undefined;
  readonly people: readonly PersonLine[];
}
const mostShown = 8;
const whyWords: Readonly<Record<string, string>> = {
  email: "the same e-mail",
  phone: "the same phone",
  name: "nearly the same name",
  "name-and-birth-date": "the same name and birth date",
};

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
      <NewClient requestId={requestId} asked={asked} query={query} />
    </Page>
  );
}

function NewClient({
  requestId,
  asked,
  query,
}: {
  readonly requestId: string;
  readonly asked: string | undefined;
  readonly query: string;
}) {
  const { locale } = useTimeFrame();
  const [birthDate, setBirthDate] = useState("");
  const [language, setLanguage] = useState("en");
  const [likely, setLikely] = useState<AddState["likely"]>();
  const [anyway, setAnyway] = useState(false);
  return (
    <MarginRow margin="New client">
      <ActionForm
        schema={async () => (await import("@/core/forms")).newClientSchema}
        submit={anyway ? "Add and continue" : "Continue"}
        hidden={{ requestId, asked: asked ?? "", birthDate, language, anyway: anyway ? "yes" : "" }}
        action={async (before, data) => {
          const answer = await addClientAction(before, data);
          setLikely(answer.likely);
          return answer;
        }}
      >
        <Fields>
          <TextField name="firstName" label="First name" />
          <TextField name="lastName" label="Last name" optional="(optional)" />
        </Fields>
        <Fields>
          <TextField name="email" label="E-mail" type="email" dir="ltr" />
          <TextField name="phone" label="Phone" type="tel" dir="ltr" />
        </Fields>
        <Fields>
          <DateField
            label="Birth date"
            optional="(optional)"
            value={birthDate}
            onChange={setBirthDate}
            locale={locale}
          />
          <Pick
            label="Reads"
            value={language}
            options={clientLanguages.map((l) => ({ value: l, label: languageName(l) }))}
            onChange={setLanguage}
          />
        </Fields>
        {likely && !anyway && (
          <Notice tone="attention">
            <Stack $gap="0.6rem">
              <strong>Somebody like that may be here already. Nothing was added yet.</strong>
              <ul>
                {likely.map((part) => (
                  <li key={part.id}>
                    <Link href={`/people/${part.id}/send${query}`}>
                      <bdi>{part.name}</bdi>
                    </Link>
                    {part.birthDate ? `, born ${dateWords(part.birthDate, locale)}` : ""}{" "}
                    <Soft>{part.why.map((y) => whyWords[y] ?? y).join(", ")}</Soft>
                  </li>
                ))}
              </ul>
              <Cluster>
                <Button weight="plain" onPress={() => setAnyway(true)}>
                  This is somebody else
                </Button>
              </Cluster>
            </Stack>
          </Notice>
        )}
      </ActionForm>
    </MarginRow>
  );
}
const Client = styled(Link)`
  font: 600 1.08rem/1.3 var(--serif);
  color: var(--ink);
  text-decoration-color: var(--rule-strong);
`;
