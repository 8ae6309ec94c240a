"use client";
import { useState } from "react";
import type { PagePolicy } from "@/core/packet";
import { directionOf, languageName } from "@/core/shared";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { savePagesAction } from "../actions";

/** What clients' pages do beyond asking. */
export function PagesForm({
  policy,
  languages,
}: {
  readonly policy: PagePolicy;
  readonly languages: readonly string[];
}) {
  const [look, setLook] = useState(policy.look);
  const [oneByOne, setOneByOne] = useState(policy.oneByOne === true);
  const [named, setNamed] = useState<string>(policy.clientNamed ?? "first-name");
  return (
    <MarginRow margin="What clients see besides questions">
      <ActionForm
        action={savePagesAction}
        submit="Save"
        weight="plain"
        hidden={{ look: String(look), oneByOne: String(oneByOne), clientNamed: named }}
      >
        <Stack>
          <Checkbox
            isSelected={look}
            onChange={setLook}
            label={
              <>
                Practitioners may look at answers before they are returned{" "}
                <Soft>each look is written in the journal</Soft>
              </>
            }
          />
          <Checkbox
            isSelected={oneByOne}
            onChange={setOneByOne}
            label={
              <>
                Measures ask one question a page <Soft>else a section a page, as everything does</Soft>
              </>
            }
          />
          <div style={{ maxInlineSize: "24rem" }}>
            <Pick
              label="Letters to parents and others name the client by"
              value={named}
              options={[
                { value: "first-name", label: "first name" },
                { value: "initials", label: "initials" },
              ]}
              onChange={setNamed}
            />
          </div>
          <Soft>
            Beside an answer that alarms, and on the thank-you page after one, a client reads whom to call. It is shown
            in their language; where that one is empty, in another, which is said there.
          </Soft>
          {languages.map((language) => (
            <TextField
              key={`support ${language}`}
              lang={language}
              dir={directionOf(language)}
              name={`support ${language}`}
              label={`For somebody in danger, in ${languageName(language)}`}
              help="A phone number, and when it is answered."
              defaultValue={policy.support?.[language] ?? ""}
              long
              maxLength={2000}
            />
          ))}
          {languages.map((language) => (
            <TextField
              key={language}
              lang={language}
              dir={directionOf(language)}
              name={`finish ${language}`}
              label={`Thank-you text in ${languageName(language)}`}
              optional="(else the built-in text)"
              defaultValue={policy.finish[language] ?? ""}
              long
              maxLength={2000}
            />
          ))}
          <TextField
            name="finishAddress"
            label="Link after finishing"
            optional="(if you like)"
            help="An address of yours that begins with https://"
            defaultValue={policy.finishAddress}
            type="url"
            dir="ltr"
          />
        </Stack>
      </ActionForm>
    </MarginRow>
  );
}
