"use client";
import { useParams } from "next/navigation";
import { useState, useTransition } from "react";
import styled from "styled-components";
import {
  isChangeNumber,
  type ChangeNumber,
  type ChangeRule,
  type Norm,
  type ScoreRule,
  type Sourced,
} from "@/core/questionnaire";
import { Button } from "@/ui/kit/button";
import { Cluster, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import type { OwnReliability } from "@/usecases/measures";
import { ownReliabilityAction } from "./actions";

export interface ChangeFieldsProps {
  readonly rule: ScoreRule;
  readonly turns: number;
  readonly onChange: (change: (rule: ScoreRule) => ScoreRule) => void;
  /** Its question, by which the practice's own answers are asked how reliable it is. */
  readonly linkId: string;
}
const withChange = (rule: ScoreRule, set: (change: ChangeRule) => ChangeRule): ScoreRule =>
  rule.change ? { ...rule, change: set(rule.change) } : rule;

/** What tells whether a change of the score is real, and whether it matters: each number with its source. */
export function ChangeFields({ rule, turns, onChange, linkId }: ChangeFieldsProps) {
  const { change } = rule;
  // It outlasts a number that does not count while it is typed.
  const [kind, setKind] = useState(change?.reliability?.kind ?? "alpha");
  // What was taken over stands in the fields, which begin with it.
  const [taken, setTaken] = useState(0);
  const set = (to: (change: ChangeRule) => ChangeRule): void => onChange((now) => withChange(now, to));
  const sourced = (key: "cutPoint" | "reliableChange" | "important") => (said: Sourced | undefined) =>
    set(({ [key]: _, ...rest }) => (said ? { ...rest, [key]: said } : rest));
  const norm = (key: "clinical" | "general") => (said: Norm | undefined) =>
    set(({ [key]: _, ...rest }) => (said ? { ...rest, [key]: said } : rest));
  return (
    <details>
      <summary>What a change of it means{change ? "" : ": not said"}</summary>
      <Stack $gap="0.8rem">
        <Pick
          small
          label="Better is"
          value={change?.better ?? ""}
          placeholder="not said"
          options={[
            { value: "", label: "not said" },
            { value: "lower", label: "a lower number" },
            { value: "higher", label: "a higher number" },
          ]}
          onChange={(better) =>
            onChange(({ change: before, ...rest }) =>
              better === "" ? rest : { ...rest, change: { ...before, better: better as ChangeRule["better"] } },
            )
          }
        />
        {change && (
          <div key={`${turns} ${taken}`}>
            <SourcedFields
              of="reliability"
              label="Reliability, 0 to 1"
              from="Source of the reliability"
              said={change.reliability}
              onChange={(said) =>
                set(({ reliability, ...rest }) =>
                  said ? { ...rest, reliability: { ...said, kind: reliability?.kind ?? kind } } : rest,
                )
              }
            />
            {change.reliability && (
              <Pick
                small
                label="Kind of reliability"
                value={change.reliability.kind}
                options={[
                  { value: "alpha", label: "Cronbach’s alpha" },
                  { value: "test-retest", label: "of two measurements" },
                ]}
                onChange={(chosen) => {
                  const next = chosen === "alpha" ? "alpha" : "test-retest";
                  setKind(next);
                  set((now) => (now.reliability ? { ...now, reliability: { ...now.reliability, kind: next } } : now));
                }}
              />
            )}
            <FromOwnAnswers
              linkId={linkId}
              onTake={(reliability) => {
                setKind(reliability.kind);
                set((now) => ({ ...now, reliability }));
                setTaken((before) => before + 1);
              }}
            />
            <NormFields label="People who seek help" said={change.clinical} onChange={norm("clinical")} />
            <NormFields label="People in general" said={change.general} onChange={norm("general")} />
            <SourcedFields
              of="cutPoint"
              label="Cut-point: first clinical number"
              from="Source of the cut-point"
              said={change.cutPoint}
              onChange={sourced("cutPoint")}
            />
            <SourcedFields
              of="reliableChange"
              label="Reliable change, where published"
              from="Source of the reliable change"
              said={change.reliableChange}
              onChange={sourced("reliableChange")}
            />
            <SourcedFields
              of="important"
              label="Smallest change that matters"
              from="Source of the smallest change"
              said={change.important}
              onChange={sourced("important")}
            />
          </div>
        )}
      </Stack>
    </details>
  );
}
const numberIn = (of: ChangeNumber, text: string): number | undefined => {
  const number = Number(text.replace(",", "."));
  return text.trim() === "" || !isChangeNumber(of, number) ? undefined : number;
};
const limits: Readonly<Partial<Record<ChangeNumber, string>>> = { reliability: "Write a number from 0 to below 1." };
/** What is wrong with a number that does not count as it was typed. */
function problemOf(of: ChangeNumber, text: string): string | undefined {
  if (text.trim() === "" || numberIn(of, text) !== undefined) return undefined;
  return limits[of] ?? (of === "mean" || of === "cutPoint" ? "Write a number." : "Write a number above 0.");
}
function SourcedFields({
  of,
  label,
  from,
  said,
  onChange,
}: {
  readonly of: Exclude<ChangeNumber, "mean" | "sd">;
  readonly label: string;
  readonly from: string;
  readonly said: Sourced | undefined;
  readonly onChange: (said: Sourced | undefined) => void;
}) {
  const [value, setValue] = useState(said === undefined ? "" : String(said.value));
  const [source, setSource] = useState(said?.source ?? "");
  const say = (nextValue: string, nextSource: string): void => {
    setValue(nextValue);
    setSource(nextSource);
    const number = numberIn(of, nextValue);
    onChange(number === undefined ? undefined : { value: number, source: nextSource });
  };
  return (
    <Row>
      <TextField
        label={label}
        inputMode="decimal"
        dir="ltr"
        value={value}
        problem={problemOf(of, value)}
        onChange={(text) => say(text, source)}
      />
      <TextField label={from} value={source} onChange={(text) => say(value, text)} />
    </Row>
  );
}
const together = (text: string, other: string): string | undefined =>
  text.trim() === "" && other.trim() !== "" ? "Mean and standard deviation count together." : undefined;
function NormFields({
  label,
  said,
  onChange,
}: {
  readonly label: string;
  readonly said: Norm | undefined;
  readonly onChange: (said: Norm | undefined) => void;
}) {
  const [typed, setTyped] = useState({
    mean: said === undefined ? "" : String(said.mean),
    sd: said === undefined ? "" : String(said.sd),
    source: said?.source ?? "",
  });
  const say = (more: Partial<typeof typed>): void => {
    const next = { ...typed, ...more };
    setTyped(next);
    const [mean, sd] = [numberIn("mean", next.mean), numberIn("sd", next.sd)];
    onChange(mean === undefined || sd === undefined ? undefined : { mean, sd, source: next.source });
  };
  return (
    <Group>
      <legend>{label}</legend>
      <Row>
        <TextField
          label="Mean"
          inputMode="decimal"
          dir="ltr"
          value={typed.mean}
          problem={problemOf("mean", typed.mean) ?? together(typed.mean, typed.sd)}
          onChange={(mean) => say({ mean })}
        />
        <TextField
          label="Standard deviation"
          inputMode="decimal"
          dir="ltr"
          value={typed.sd}
          problem={problemOf("sd", typed.sd) ?? together(typed.sd, typed.mean)}
          onChange={(sd) => say({ sd })}
        />
        <TextField label="Source" value={typed.source} onChange={(source) => say({ source })} />
      </Row>
    </Group>
  );
}
/** How reliable the score is in the practice's own answers, to be taken over and marked as such. */
function FromOwnAnswers({
  linkId,
  onTake,
}: {
  readonly linkId: string;
  readonly onTake: (reliability: NonNullable<ChangeRule["reliability"]>) => void;
}) {
  const { id } = useParams<{ readonly id: string }>();
  const [found, setFound] = useState<OwnReliability>();
  const [busy, start] = useTransition();
  const line = (kind: "alpha" | "test-retest", said: OwnReliability["alpha"]) => {
    const words = kind === "alpha" ? "alpha" : "of two measurements within six weeks";
    if (!said) return <Soft>{`${words}: too few answers yet (${found!.fewest} are needed)`}</Soft>;
    const value = Math.round(said.value * 100) / 100;
    return (
      <Cluster>
        <span>
          {words}: {value} from {said.people} people
        </span>
        <Button weight="quiet" onPress={() => onTake({ kind, value, source: said.source })}>
          Take it over
        </Button>
      </Cluster>
    );
  };
  return (
    <Own $gap="0.2rem">
      <Button
        weight="quiet"
        isDisabled={busy}
        onPress={() => start(async () => setFound(await ownReliabilityAction({ questionnaireId: id, linkId })))}
      >
        From your own answers
      </Button>
      {found && line("alpha", found.alpha)}
      {found && line("test-retest", found.testRetest)}
    </Own>
  );
}
/** A number is short, where it is from is long. */
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  align-items: start;
  padding-block: 0.45rem;
  & > * {
    flex: 1 1 8rem;
    min-inline-size: 0;
  }
  & > :first-child:nth-last-child(2) {
    flex-basis: 13rem;
  }
  & > :last-child {
    flex: 2 1 14rem;
  }
`;
const Group = styled.fieldset`
  min-inline-size: 0;
  margin: 0;
  padding: 0.4rem 0 0;
  border: 0;
  & > legend {
    padding: 0;
    font-weight: 600;
  }
`;
const Own = styled(Stack)`
  align-items: start;
`;
