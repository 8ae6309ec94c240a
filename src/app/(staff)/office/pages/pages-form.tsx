"use client";
import { useState } from "react";
import type { PagePolicy } from "@/core/packet";
import { directionOf, languageName } from "@/core/shared";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { MarginRow, Soft, Stack } from "@/ui/kit/page";
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
  return (
    <MarginRow margin="When a packet was returned, and before">
      <ActionForm
        action={savePagesAction}
        submit="Save"
        weight="plain"
        hidden={{ look: String(look), oneByOne: String(oneByOne) }}
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
