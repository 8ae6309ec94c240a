"use client";
import { useState } from "react";
import { languageName } from "@/core/shared";
import { clientLanguages } from "@/i18n/languages";
import { CheckboxGroup, type Option } from "@/ui/kit/choice-fields";
import { CountryField } from "@/ui/kit/country-field";
import { Logo } from "@/ui/kit/doorstep";
import { FileForm } from "@/ui/kit/file-form";
import { ActionForm, type FormState } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { Answers } from "@/ui/kit/ledger";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import type { PracticeDefaults, PracticeFacts as Facts } from "@/usecases/practice";
import { removeLogoAction, saveDefaultsAction, saveFactsAction, saveLogoAction } from "./actions";

export interface PracticeFactsProps {
  readonly facts: Facts;
  /** Undefined for who may not change how the practice works. */
  readonly defaults: PracticeDefaults | undefined;
  readonly countries: readonly Option[];
  /** For another logo. */
  readonly requestId: string;
}
/** What the practice is known by, on clients' pages and in letters, and what holds unless something else is said. */
export function PracticeFacts({ facts, defaults, countries, requestId }: PracticeFactsProps) {
  if (!defaults)
    return (
      <MarginRow margin="Practice">
        <Answers>
          {[
            ["Name", facts.practiceName],
            ["E-mail", facts.practiceEmail],
            ["Address", facts.address],
            ["Language", languageName(facts.language)],
          ]
            .filter(([, value]) => value !== "")
            .map(([label, value]) => (
              <div key={label}>
                <dt>{label}</dt>
                <dd>{value}</dd>
              </div>
            ))}
        </Answers>
      </MarginRow>
    );
  return (
    <>
      <MarginRow margin="Practice">
        <FactsForm facts={facts} countries={countries} />
      </MarginRow>
      <MarginRow margin="Logo">
        <LogoForm logo={facts.logo} requestId={requestId} />
      </MarginRow>
      <MarginRow margin="Defaults">
        <DefaultsForm defaults={defaults} />
      </MarginRow>
    </>
  );
}
function FactsForm({ facts, countries }: { readonly facts: Facts; readonly countries: readonly Option[] }) {
  const [country, setCountry] = useState(facts.country);
  const [language, setLanguage] = useState(facts.language);
  return (
    <ActionForm
      action={saveFactsAction}
      schema={async () => (await import("@/core/forms")).practiceFactsSchema}
      submit="Save practice"
      weight="plain"
      hidden={{ country, language }}
    >
      <Stack>
        <Fields $least="14rem">
          <TextField name="practiceName" label="Name of the practice" defaultValue={facts.practiceName} />
          <TextField
            name="practiceEmail"
            type="email"
            label="E-mail of the practice"
            defaultValue={facts.practiceEmail}
            dir="ltr"
          />
          <CountryField countries={countries} value={country} onChange={setCountry} />
          <Pick
            label="Language of the practice"
            value={language}
            options={[...new Set([...clientLanguages, facts.language])].map((tag) => ({
              value: tag,
              label: languageName(tag),
            }))}
            onChange={setLanguage}
          />
        </Fields>
        <TextField name="address" label="Address" optional="(optional)" long defaultValue={facts.address} />
      </Stack>
    </ActionForm>
  );
}
function LogoForm({ logo, requestId }: { readonly logo: string | null; readonly requestId: string }) {
  return (
    <Stack $gap="0.6rem">
      {logo !== null && <Logo src={logo} alt="The practice’s logo" />}
      <Cluster>
        <FileForm<FormState>
          action={async (before, sent) => {
            sent.set("requestId", requestId);
            return saveLogoAction(before, sent);
          }}
          initial={{}}
          label={logo === null ? "Choose a picture" : "Choose another picture"}
          accept={["image/png", "image/jpeg"]}
        >
          {(state) => (state.message ? <Notice tone="problem">{state.message}</Notice> : null)}
        </FileForm>
        {logo !== null && <ActionForm action={removeLogoAction} submit="Do without a logo" weight="quiet" />}
      </Cluster>
      <Soft>PNG or JPEG. It stands on clients’ pages, in letters and on papers.</Soft>
    </Stack>
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
