"use client";
import { useState } from "react";
import { chartSections, chartSectionTitles } from "@/core/chart";
import { notePlaceholders, type LayoutSection, type TakeHomeSection } from "@/core/notes";
import { Button } from "@/ui/kit/button";
import { Checkbox, CheckboxGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Cluster, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import type { LayoutLine, NoteLayouts } from "@/usecases/notes";
import { dropLayoutAction, keepLayoutAction } from "../actions";

/** A note layout as it is changed: its sections in their order, and what the client gets. */
export interface LayoutFormProps {
  readonly line: LayoutLine;
  readonly fields: NoteLayouts["fields"];
  readonly close: () => void;
}
export function LayoutForm({ line, fields, close }: LayoutFormProps) {
  const [name, setName] = useState(line.layout.name);
  const [shared, setShared] = useState(line.shared);
  const [sections, setSections] = useState<readonly LayoutSection[]>(line.layout.sections);
  const [takeHome, setTakeHome] = useState<readonly TakeHomeSection[]>(line.layout.takeHome);
  const change = (at: number, part: Partial<LayoutSection>): void =>
    setSections(sections.map((section, index) => (index === at ? { ...section, ...part } : section)));
  const layout = { id: line.layout.id, revision: line.revision, name, shared, sections, takeHome };
  return (
    <section aria-label={`Layout: ${name}`}>
      <MarginRow margin="Layout">
        <Cluster>
          <TextField label="Name" value={name} onChange={setName} maxLength={80} />
          {line.mine && <Checkbox isSelected={shared} onChange={setShared} label="Everybody may use and change it" />}
        </Cluster>
      </MarginRow>
      <SectionTitle>Sections</SectionTitle>
      {sections.map((section, at) => (
        <MarginRow
          key={section.id}
          margin={<Order name={section.heading} at={at} all={sections} put={setSections} least={1} />}
        >
          <SectionFields
            section={section}
            fields={fields}
            change={(part) => change(at, part)}
            flag={(flag, on) =>
              setSections(sections.map((one, index) => withFlag(one, flag, index === at ? on : one[flag] === true)))
            }
          />
        </MarginRow>
      ))}
      <MarginRow margin="">
        <Button
          weight="quiet"
          onPress={() =>
            setSections([...sections, { id: `s-${crypto.randomUUID().slice(0, 8)}`, heading: "New section" }])
          }
        >
          Add a section
        </Button>
      </MarginRow>
      <SectionTitle>Take-home</SectionTitle>
      {takeHome.map((section, at) => {
        const put = (part: Partial<TakeHomeSection>): void =>
          setTakeHome(takeHome.map((one, index) => (index === at ? { ...one, ...part } : one)));
        return (
          <MarginRow
            key={at}
            margin={<Order name={section.heading} at={at} all={takeHome} put={setTakeHome} least={0} />}
          >
            <Stack $gap="0.3rem">
              <TextField
                label="Heading"
                value={section.heading}
                onChange={(heading) => put({ heading })}
                maxLength={120}
              />
              <TextField
                label="What belongs there"
                value={section.prompt ?? ""}
                onChange={(prompt) => put({ prompt })}
                maxLength={300}
              />
              <TextField
                label="Standing text"
                long
                value={section.text ?? ""}
                onChange={(text) => put({ text })}
                maxLength={4000}
              />
            </Stack>
          </MarginRow>
        );
      })}
      <MarginRow margin="">
        <Stack $gap="0.5rem">
          <Button weight="quiet" onPress={() => setTakeHome([...takeHome, { heading: "New section" }])}>
            Add a section
          </Button>
          <Soft>
            In standing text these stand for something: {notePlaceholders.map((one) => `{{${one}}}`).join(" ")}
          </Soft>
          <ActionForm action={keepLayoutAction} submit="Keep the layout" hidden={{ layout: JSON.stringify(layout) }} />
          <Cluster>
            <Button weight="quiet" onPress={close}>
              Leave it as it was
            </Button>
            {line.mine && line.revision > 0 && (
              <ActionForm
                action={dropLayoutAction}
                submit="Take the layout away"
                weight="danger"
                hidden={{ id: line.layout.id }}
              />
            )}
          </Cluster>
        </Stack>
      </MarginRow>
    </section>
  );
}
/** What a section says, and what is laid there. */
function SectionFields({
  section,
  fields,
  change,
  flag,
}: {
  readonly section: LayoutSection;
  readonly fields: NoteLayouts["fields"];
  readonly change: (part: Partial<LayoutSection>) => void;
  readonly flag: (which: "measures" | "rest", on: boolean) => void;
}) {
  return (
    <Stack $gap="0.3rem">
      <TextField label="Heading" value={section.heading} onChange={(heading) => change({ heading })} maxLength={120} />
      <TextField
        label="What belongs there"
        value={section.prompt ?? ""}
        onChange={(prompt) => change({ prompt })}
        maxLength={300}
      />
      <Fold>
        <summary>What is laid there</summary>
        <Stack $gap="0.3rem">
          <TextField
            label="Standing text"
            long
            value={section.text ?? ""}
            onChange={(text) => change({ text })}
            maxLength={4000}
          />
          <CheckboxGroup
            label="Answers that are charted in"
            value={[...(section.takes ?? [])]}
            onChange={(takes) => change({ takes })}
            options={chartSections.map((key) => ({ value: key, label: chartSectionTitles[key] }))}
          />
          <CheckboxGroup
            label="What stands in the chart under"
            value={[...(section.fields ?? [])]}
            onChange={(keys) => change({ fields: keys })}
            options={fields.map(({ key, label }) => ({ value: key, label }))}
          />
          <Checkbox
            isSelected={section.measures === true}
            onChange={(on) => flag("measures", on)}
            label="Scores, with how they changed"
          />
          <Checkbox
            isSelected={section.rest === true}
            onChange={(on) => flag("rest", on)}
            label="Answers that belong nowhere else"
          />
        </Stack>
      </Fold>
    </Stack>
  );
}
function withFlag(section: LayoutSection, flag: "measures" | "rest", on: boolean): LayoutSection {
  const { [flag]: _, ...others } = section;
  return on ? { ...others, [flag]: true } : others;
}
/** Up, and away. */
function Order<T>({
  name,
  at,
  all,
  put,
  least,
}: {
  readonly name: string;
  readonly at: number;
  readonly all: readonly T[];
  readonly put: (all: readonly T[]) => void;
  readonly least: number;
}) {
  const lift = (): void => {
    const next = [...all];
    next.splice(at - 1, 2, next[at]!, next[at - 1]!);
    put(next);
  };
  return (
    <Cluster $gap="0.2rem 0.5rem">
      {at > 0 && (
        <Button weight="quiet" onPress={lift} aria-label={`Move ${name} up`}>
          up
        </Button>
      )}
      {all.length > least && (
        <Button
          weight="quiet"
          onPress={() => put(all.filter((_, index) => index !== at))}
          aria-label={`Take ${name} out`}
        >
          out
        </Button>
      )}
    </Cluster>
  );
}
