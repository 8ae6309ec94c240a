"use client";
import { useState } from "react";
import { dateWords } from "@/core/questionnaire";
import { languageName } from "@/core/shared";
import { clientLanguages } from "@/i18n/languages";
import { Button } from "@/ui/kit/button";
import { DateField } from "@/ui/kit/date-field";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { useTimeFrame } from "@/ui/kit/time";
import { whyWords } from "./why-words";
import { addClientAction, type AddState } from "./actions";

export interface NewClientProps {
  readonly requestId: string;
  /** What the action needs to know where to go on. */
  readonly hidden: Readonly<Record<string, string>>;
  /** Where one goes on with somebody who is here already. */
  readonly hrefOf: (clientId: string) => string;
  /** Of the button: plain where it is not what the page is for. */
  readonly weight?: "primary" | "plain";
}
/** Somebody new, by name and one way to reach them; who may be here already is shown first. */
export function NewClient({ requestId, hidden, hrefOf, weight = "primary" }: NewClientProps) {
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
        weight={weight}
        hidden={{ ...hidden, requestId, birthDate, language, anyway: anyway ? "yes" : "" }}
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
                    <Link href={hrefOf(part.id)}>
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
