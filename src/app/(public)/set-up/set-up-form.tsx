"use client";
import { useState, useSyncExternalStore } from "react";
import { languageName } from "@/core/shared";
import { clientLanguages } from "@/i18n/languages";
import { CheckboxGroup, type Option } from "@/ui/kit/choice-fields";
import { CountryField } from "@/ui/kit/country-field";
import { FileField } from "@/ui/kit/file-field";
import { ActionForm } from "@/ui/kit/form";
import { NewPassword } from "@/ui/kit/new-password";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { setUpAction } from "./actions";

const never = () => () => undefined;
const zoneHere = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

export function SetUpForm({ countries }: { readonly countries: readonly Option[] }) {
  const [country, setCountry] = useState("");
  const [language, setLanguage] = useState("en");
  const [languages, setLanguages] = useState<string[]>([]);
  // Where the browser is, most likely so is the practice.
  const here = useSyncExternalStore(never, zoneHere, () => "");
  const [zone, setZone] = useState<string>();
  return (
    <>
      <h1>Set up your practice</h1>
      <p>Nothing is here yet. What you say now can be changed in Office later, but for the code.</p>
      <ActionForm
        action={setUpAction}
        schema={async () => (await import("@/core/forms")).setUpSchema}
        submit="Set up the practice"
        hidden={{ country, language, languages: languages.join(" ") }}
      >
        <TextField
          name="code"
          label="Code from the console"
          help="Where Kind Ledger was started it printed three groups of four letters and digits."
          autoComplete="off"
          autoFocus
          dir="ltr"
        />
        <h2>The practice</h2>
        <TextField name="practiceName" label="Name of the practice" autoComplete="organization" />
        <TextField
          name="practiceEmail"
          type="email"
          label="E-mail of the practice"
          help="Letters to clients name it, and come back there."
          dir="ltr"
        />
        <FileField name="logo" label="Logo" optional="(optional), PNG or JPEG" accept={["image/png", "image/jpeg"]} />
        <TextField name="address" label="Address" optional="(optional)" long autoComplete="street-address" />
        <CountryField
          countries={countries}
          value={country}
          onChange={setCountry}
          help="How addresses, phone numbers and dates are written."
        />
        <Pick
          label="Language of the practice"
          value={language}
          options={clientLanguages.map((tag) => ({ value: tag, label: languageName(tag) }))}
          onChange={setLanguage}
        />
        <CheckboxGroup
          label="Languages clients are offered"
          options={clientLanguages.map((tag) => ({ value: tag, label: languageName(tag) }))}
          value={[...new Set([language, ...languages])]}
          onChange={setLanguages}
        />
        <TextField name="zone" label="Time zone" value={zone ?? here} onChange={setZone} dir="ltr" />
        <h2>Your own account</h2>
        <TextField name="name" label="Your name" help="As clients and colleagues know you." autoComplete="name" />
        <TextField name="email" type="email" label="Your e-mail" autoComplete="username" dir="ltr" />
        <NewPassword label="Password" />
      </ActionForm>
    </>
  );
}
