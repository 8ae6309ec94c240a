"use client";
import { useState } from "react";
import { languageName } from "@/core/shared";
import { clientLanguages } from "@/i18n/languages";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Answers } from "@/ui/kit/ledger";
import { Fields, MarginRow, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import type { PracticeDefaults } from "@/usecases/practice";
import { saveDefaultsAction } from "./actions";

export interface PracticeFactsProps {
  readonly name: string;
  readonly email: string;
  readonly locale: string;
  readonly defaults: PracticeDefaults;
  /** Whether this member of staff may change them. */
  readonly mayChange: boolean;
}
/** What the practice is known by, on clients' pages and in letters, and what holds unless something else is said. */
export function PracticeFacts({ name, email, locale, defaults, mayChange }: PracticeFactsProps) {
  const facts = [
    ["Name", name],
    ["E-mail", email],
    ["Language", languageName(locale)],
    ...(mayChange
      ? []
      : ([
          ["Time zone", defaults.zone],
          ["Links are open for", `${defaults.linkDays} days`],
        ] as const)),
  ] as const;
  return (
    <>
      <MarginRow margin="Practice">
        <Answers>
          {facts.map(([label, value]) => (
            <div key={label}>
              <dt>{label}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </Answers>
      </MarginRow>
      {mayChange && (
        <MarginRow margin="Defaults">
          <DefaultsForm defaults={defaults} />
        </MarginRow>
      )}
    </>
  );
}
function DefaultsForm({ defaults }: { readonly defaults: PracticeDefaults }) {
  const [languages, setLanguages] = useState([...defaults.languages]);
  return (
    <ActionForm
      action={saveDefaultsAction}
      schema={async () => (await import("@/core/forms")).practiceDefaultsSchema}
      submit="Save"
      weight="plain"
      hidden={{ languages: languages.join(" ") }}
    >
      <Stack>
        <Fields $least="14rem">
          <TextField
            name="linkDays"
            label="Links are open for, in days"
            defaultValue={String(defaults.linkDays)}
            inputMode="numeric"
            dir="ltr"
          />
          <TextField name="zone" label="Time zone" defaultValue={defaults.zone} dir="ltr" />
        </Fields>
        <CheckboxGroup
          label="Languages clients are offered"
          options={[...new Set([...clientLanguages, ...defaults.languages])].map((tag) => ({
            value: tag,
            label: languageName(tag),
          }))}
          value={languages}
          onChange={setLanguages}
        />
      </Stack>
    </ActionForm>
  );
}
