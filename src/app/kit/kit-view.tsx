"use client";
import { useState, useSyncExternalStore, type CSSProperties, type ReactNode } from "react";
import styled from "styled-components";
import { instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { ButtonLink } from "@/ui/kit/button-link";
import { Checkbox, CheckboxGroup, RadioGroup } from "@/ui/kit/choice-fields";
import { ChoiceRow } from "@/ui/kit/choice-row";
import { DateField } from "@/ui/kit/date-field";
import { FileForm } from "@/ui/kit/file-form";
import { ActionForm, type FormState } from "@/ui/kit/form";
import { Alarm, Answers, Columns, Fold, ListLine, Name, Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Fields, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { LookUp, Pick } from "@/ui/kit/pick";
import { Key } from "@/ui/kit/shortcuts";
import { SignatureMark } from "@/ui/kit/signature-mark";
import { StateWords } from "@/ui/kit/state-mark";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";

const schemes = ["light", "dark"] as const;
const directions = ["ltr", "rtl"] as const;
type Scheme = (typeof schemes)[number];

/** The kit four times: light and dark, from left to right and from right to left. */
export function KitView() {
  // Read from the stylesheet itself, which follows the machine: so there is no second list of colours.
  const tokens = useSyncExternalStore(never, readTokens, none);
  if (!tokens) return null;
  return (
    <Sheets>
      {schemes.flatMap((scheme) =>
        directions.map((dir) => (
          <Sheet key={scheme + dir} dir={dir} style={{ ...tokens[scheme], colorScheme: scheme }}>
            <Kit of={`${scheme}, ${dir === "ltr" ? "left to right" : "right to left"}`} />
          </Sheet>
        )),
      )}
    </Sheets>
  );
}
let read: Readonly<Record<Scheme, CSSProperties>> | undefined;
const readTokens = () => (read ??= { light: tokensOf("light"), dark: tokensOf("dark") });
const never = () => () => undefined;
const none = (): undefined => undefined;
function tokensOf(scheme: Scheme): CSSProperties {
  const found: Record<string, string> = {};
  const take = (rules: CSSRuleList): void => {
    for (const rule of rules) {
      if (rule instanceof CSSMediaRule && rule.conditionText.includes("dark") && scheme === "dark") take(rule.cssRules);
      if (rule instanceof CSSStyleRule && rule.selectorText === ":root")
        for (const name of rule.style) if (name.startsWith("--")) found[name] = rule.style.getPropertyValue(name);
    }
  };
  for (const sheet of document.styleSheets) take(sheet.cssRules);
  return found;
}

const options = [
  { value: "a", label: "By the lake" },
  { value: "b", label: "In the garden room" },
  { value: "c", label: "On the phone" },
];
const marks = ["ready", "sent", "opened", "under-way", "returned", "sent-back", "settled", "lapsed", "locked"] as const;
const nothing = async (): Promise<FormState> => ({ message: "Nothing is kept here." });

function Kit({ of }: { readonly of: string }) {
  return (
    <Page title="Interface kit" margin={of} actions={<ButtonLink href="/kit">What stands at the end</ButtonLink>}>
      <Strip>
        <span>One line about the whole page</span>
        <Link href="/kit">A link</Link>
      </Strip>
      <Part name="Pressed">
        <Cluster>
          <Button weight="primary">Primary</Button>
          <Button>Plain</Button>
          <Button weight="quiet">Quiet</Button>
          <Button weight="danger">Danger</Button>
          <Button isDisabled>Disabled</Button>
          <Button busy>Busy</Button>
          <Key>n</Key>
        </Cluster>
      </Part>
      <Part name="Said">
        <Stack $gap="0.5rem">
          <Notice>Plain</Notice>
          <Notice tone="settled">Settled</Notice>
          <Notice tone="attention">Attention</Notice>
          <Notice tone="problem">Problem</Notice>
          <p>
            Text, <Soft>softer text</Soft>, <Alarm>an alarm</Alarm>, <Moment at={instant("2026-11-26T09:30:00Z")} />
          </p>
        </Stack>
      </Part>
      <Part name="States">
        <Cluster>
          {marks.map((mark) => (
            <StateWords key={mark} mark={mark} words={mark.replace("-", " ")} />
          ))}
        </Cluster>
      </Part>
      <Part name="Written">
        <Fields>
          <TextField label="Text" optional="(optional)" help="What helps to write it." />
          <TextField label="With a problem" defaultValue="??" problem="Write a name." />
          <TextField label="Long" long defaultValue="Several lines." />
          <Dated />
        </Fields>
      </Part>
      <Part name="Chosen">
        <Choices />
      </Part>
      <Part name="Sent">
        <Stack>
          <ActionForm action={nothing} submit="Send">
            <TextField name="name" label="Name" />
          </ActionForm>
          <FileForm action={async () => ""} initial="" label="Choose a file" accept={["text/plain"]}>
            {() => null}
          </FileForm>
          <SignatureMark mark={{ kind: "typed", name: "Ines Halvorsen" }} />
        </Stack>
      </Part>
      <Lists />
    </Page>
  );
}
function Dated() {
  const [day, setDay] = useState("2026-11-25");
  return <DateField label="Day" value={day} onChange={setDay} locale="en-GB" />;
}
function Choices() {
  const [one, setOne] = useState("a");
  const [on, setOn] = useState(true);
  const [line, setLine] = useState<"keep" | "take">();
  return (
    <Stack>
      <RadioGroup label="One of" options={options} value={one} onChange={setOne} />
      <RadioGroup label="Side by side" inline options={options.slice(0, 2)} defaultValue="b" />
      <RadioGroup
        label="Stops"
        stops
        options={["0", "1", "2", "3", "4"].map((value) => ({ value, label: value }))}
        defaultValue="2"
      />
      <CheckboxGroup label="Several of" options={options} defaultValue={["a"]} problem="Choose two." />
      <Checkbox label="On or off" isSelected={on} onChange={setOn} />
      <ChoiceRow
        label="Decision"
        choices={[
          { value: "keep", label: "Keep", shortcut: "k" },
          { value: "take", label: "Take", shortcut: "t" },
        ]}
        value={line}
        onChange={setLine}
      />
      <Fields>
        <Pick label="From a list" options={options} value={one} onChange={setOne} />
        <LookUp label="Found by typing" options={options} value={one} onChange={setOne} />
      </Fields>
      <Fold>
        <summary>Something rarely wanted</summary>
        <p>What is behind it.</p>
      </Fold>
    </Stack>
  );
}
function Lists() {
  return (
    <>
      <SectionTitle>Lists</SectionTitle>
      <ul>
        <ListLine margin="11:00" action={<ButtonLink href="/kit">Open</ButtonLink>}>
          <Columns>
            <Name href="/kit">Ines Halvorsen</Name>
            <Soft>First visit</Soft>
          </Columns>
        </ListLine>
        <ListLine margin="12:30" tone="attention">
          <Name href="/kit">Otto Fenn</Name>
        </ListLine>
      </ul>
      <MarginRow margin="Answers">
        <Answers>
          <div>
            <dt>What brings you here?</dt>
            <dd>I lie awake and worry.</dd>
          </div>
          <div>
            <dt>Since when?</dt>
            <dd>Since moving house.</dd>
          </div>
        </Answers>
      </MarginRow>
    </>
  );
}
function Part({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return <MarginRow margin={name}>{children}</MarginRow>;
}
const Sheets = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(38rem, 100%), 1fr));
`;
const Sheet = styled.div`
  background: var(--paper);
  color: var(--ink);
  min-width: 0;
`;
