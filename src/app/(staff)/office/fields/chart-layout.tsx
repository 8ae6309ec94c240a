"use client";
import { useState } from "react";
import { chartSectionTitles, mostQuick, type ChartSection } from "@/core/chart";
import { Button } from "@/ui/kit/button";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Fold } from "@/ui/kit/ledger";
import { Cluster, MarginRow, SectionTitle, Stack } from "@/ui/kit/page";
import type { ChartLayoutView } from "@/usecases/practice";
import { setChartLayoutAction } from "../actions";

/** How the practice's charts are laid out: the order of sections, the facts at the head, and what is hidden while empty. */
export function ChartLayoutForm({ layout }: { readonly layout: ChartLayoutView }) {
  const [sections, setSections] = useState<readonly ChartSection[]>(layout.sections);
  const [quick, setQuick] = useState<readonly string[]>(layout.quick);
  const [hidden, setHidden] = useState<readonly string[]>(layout.hidden);
  const lift = (index: number): void => {
    const next = [...sections];
    next.splice(index - 1, 2, next[index]!, next[index - 1]!);
    setSections(next);
  };
  const options = layout.fields.map((field) => ({ value: field.key, label: field.label }));
  return (
    <section aria-label="How charts are laid out">
      <SectionTitle>How charts are laid out</SectionTitle>
      <MarginRow margin="Sections">
        <ol>
          {sections.map((section, index) => (
            <li key={section}>
              <Cluster $gap="0.75rem">
                <span>{chartSectionTitles[section]}</span>
                {index > 0 && (
                  <Button
                    weight="quiet"
                    onPress={() => lift(index)}
                    aria-label={`Move ${chartSectionTitles[section]} up`}
                  >
                    up
                  </Button>
                )}
              </Cluster>
            </li>
          ))}
        </ol>
      </MarginRow>
      <MarginRow margin="Facts and fields">
        <Stack $gap="0.5rem">
          <Fold>
            <summary>Facts at the head of a chart: {quick.length}</summary>
            <CheckboxGroup
              label={`At most ${mostQuick}`}
              value={[...quick]}
              onChange={(chosen) => setQuick(chosen.slice(0, mostQuick))}
              options={options}
            />
          </Fold>
          <Fold>
            <summary>Fields hidden while they are empty: {hidden.length}</summary>
            <CheckboxGroup
              label="Hidden until something stands in them"
              value={[...hidden]}
              onChange={setHidden}
              options={options}
            />
          </Fold>
          <ActionForm
            action={setChartLayoutAction}
            submit="Lay charts out so"
            hidden={{ layout: JSON.stringify({ sections, quick, hidden }) }}
          />
        </Stack>
      </MarginRow>
    </section>
  );
}
