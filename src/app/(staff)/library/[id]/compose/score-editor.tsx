"use client";
import styled from "styled-components";
import type { Band, Question, ScoreRule } from "@/core/questionnaire";
import type { ProofReport } from "@/core/proof";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { Cluster, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { ChangeFields } from "./change-fields";
import { useTypedText } from "./use-history";

type Bands = Pick<ScoreRule, "bands" | "unread">;
/** Bands as they are typed, one a line; a line that does not read is kept as it is. */
function readBands(text: string, source: string): Bands {
  const unread: string[] = [];
  const bands = text.split("\n").flatMap((line): Band[] => {
    const found = /^\s*(-?\d+(?:\.\d+)?)\s*(?:-|–|to)\s*(-?\d+(?:\.\d+)?)\s+(!?)\s*(.+?)\s*$/.exec(line);
    const [, low, high, alarm, label] = found ?? [];
    if (label === undefined) {
      if (line.trim() !== "") unread.push(line);
      return [];
    }
    return [{ low: Number(low), high: Number(high), label, source, ...(alarm ? { alert: label } : {}) }];
  });
  return { bands, ...(unread.length > 0 ? { unread } : {}) };
}
const writeBands = ({ bands, unread = [] }: Bands): string =>
  [...bands.map((b) => `${b.low} to ${b.high} ${b.alert ? "! " : ""}${b.label}`), ...unread].join("\n");
/** The rule with other bands. Where there is none yet, the source waits in the rule for the first. */
function withBands({ unread: _, bandsSource: __, ...rest }: ScoreRule, text: string, source: string): ScoreRule {
  const read = readBands(text, source);
  return { ...rest, ...read, ...(read.bands.length === 0 && source !== "" ? { bandsSource: source } : {}) };
}

export interface ScoreEditorProps {
  readonly rule: ScoreRule;
  /** Questions whose answers have numbers. */
  readonly numbered: readonly Question[];
  readonly range: ProofReport["facts"]["scores"][number]["range"] | undefined;
  /** How often something was undone or redone. */
  readonly turns: number;
  /** Each change is made to the rule as it is then: what is shown here may lag behind what was typed. */
  readonly onChange: (change: (rule: ScoreRule) => ScoreRule) => void;
  /** Its question, by which the practice's own answers are asked how reliable it is. */
  readonly linkId: string;
}
/** How a score is made, without a formula: what counts, how, from how many answers on, and what the number means. */
export function ScoreEditor({ rule, numbered, range, turns, onChange, linkId }: ScoreEditorProps) {
  return (
    <Stack $gap="0.8rem">
      <CheckboxGroup
        label="Counts"
        options={numbered.map((q) => ({ value: q.linkId, label: q.text || "Without words" }))}
        value={[...rule.items]}
        onChange={(items) =>
          onChange((r) => ({
            ...r,
            items: numbered.filter((q) => items.includes(q.linkId)).map((q) => q.linkId),
            // All of them, unless somebody asked for fewer.
            fewestAnswered:
              r.fewestAnswered >= r.items.length ? items.length : Math.min(r.fewestAnswered, items.length),
          }))
        }
      />
      {numbered.length === 0 && (
        <Soft>No question before it has numbers. Put “= 2” after an option to give it one.</Soft>
      )}
      {rule.items.length > 0 && (
        <CheckboxGroup
          label="Counted from the other end"
          options={rule.items.map((id) => ({ value: id, label: numbered.find((q) => q.linkId === id)?.text ?? id }))}
          value={[...(rule.reversed ?? [])]}
          onChange={(reversed) =>
            onChange(({ reversed: _, ...rest }) => (reversed.length > 0 ? { ...rest, reversed } : rest))
          }
        />
      )}
      {rule.items.length > 0 && rule.method !== "count" && (
        <details open={rule.weights !== undefined}>
          <summary>How much each counts</summary>
          <Weights>
            {rule.items.map((id) => (
              <NumberBox
                key={id}
                label={numbered.find((q) => q.linkId === id)?.text ?? id}
                value={rule.weights?.[id] ?? 1}
                onChange={(n) => onChange((r) => withWeight(r, id, n))}
              />
            ))}
          </Weights>
        </details>
      )}
      <Cluster $gap="0.8rem">
        <Pick
          small
          label="The score is"
          value={rule.method}
          options={[
            { value: "sum", label: "the sum" },
            { value: "mean", label: "the mean" },
            { value: "count", label: "how many were answered" },
          ]}
          onChange={(v) =>
            onChange((r) => ({
              ...r,
              method: v as ScoreRule["method"],
              // How many were answered is known from one on; what is added up is not.
              fewestAnswered: v === "count" ? 1 : r.items.length,
            }))
          }
        />
        <NumberBox
          label="Times"
          value={rule.factor ?? 1}
          onChange={(factor) => onChange(({ factor: _, ...rest }) => (factor === 1 ? rest : { ...rest, factor }))}
        />
        <NumberBox
          key={`fewest ${rule.method} ${rule.items.length} ${turns}`}
          label="Needs so many answers"
          value={rule.fewestAnswered}
          onChange={(n) =>
            onChange((r) => ({
              ...r,
              fewestAnswered: Math.min(Math.max(1, Math.round(n)), Math.max(1, r.items.length)),
            }))
          }
        />
        {rule.fewestAnswered < rule.items.length && (
          <Pick
            small
            label="Missing answers"
            value={rule.proration}
            options={[
              { value: "none", label: "count nothing" },
              { value: "person-mean", label: "count as the mean of the others" },
            ]}
            onChange={(v) => onChange((r) => ({ ...r, proration: v as ScoreRule["proration"] }))}
          />
        )}
      </Cluster>
      {rule.method !== "count" && rule.fewestAnswered < rule.items.length && (
        <TextField
          label="Where the rule for missing answers is published"
          help="A score made from some of its answers can look lower or higher than it is. What is missing is always said beside it."
          value={rule.missingSource ?? ""}
          onChange={(text) =>
            onChange(({ missingSource: _, ...rest }) => (text === "" ? rest : { ...rest, missingSource: text }))
          }
        />
      )}
      {range && (
        <Soft>
          It can be {Number(range.low.toFixed(2))} to {Number(range.high.toFixed(2))}.
        </Soft>
      )}
      <BandFields rule={rule} turns={turns} onChange={onChange} />
      <ChangeFields rule={rule} turns={turns} onChange={onChange} linkId={linkId} />
    </Stack>
  );
}

/** What the number means, a band a line, and where that is published. */
function BandFields({ rule, turns, onChange }: Pick<ScoreEditorProps, "rule" | "turns" | "onChange">) {
  const source = rule.bands[0]?.source ?? rule.bandsSource ?? "";
  const [bands, setBands] = useTypedText(writeBands(rule), turns);
  const [from, setFrom] = useTypedText(source, turns);
  const unread = readBands(bands, from).unread?.length ?? 0;
  return (
    <>
      <TextField
        label="What it means"
        long
        value={bands}
        help="One band a line: 0 to 4 minimal. A ! before the words raises an alert."
        onChange={(text) => {
          setBands(text);
          onChange((r) => withBands(r, text, from));
        }}
        problem={
          unread > 0
            ? `${unread === 1 ? "One line is" : `${unread} lines are`} not read and kept as typed: write it like “0 to 4 minimal”.`
            : undefined
        }
      />
      <TextField
        label="Source of the bands"
        value={from}
        onChange={(text) => {
          setFrom(text);
          onChange((r) => withBands(r, bands, text));
        }}
      />
    </>
  );
}

function withWeight({ weights = {}, ...rule }: ScoreRule, id: string, weight: number): ScoreRule {
  const { [id]: _, ...others } = weights;
  const next = weight === 1 ? others : { ...others, [id]: weight };
  return Object.keys(next).length > 0 ? { ...rule, weights: next } : rule;
}
const Weights = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(9rem, 1fr));
  gap: 0.8rem;
  align-items: end;
  padding-block-start: 0.6rem;
`;

function NumberBox({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
}) {
  return (
    <TextField
      label={label}
      defaultValue={String(value)}
      inputMode="decimal"
      dir="ltr"
      onChange={(text) => {
        const n = Number(text.replace(",", "."));
        if (text.trim() !== "" && Number.isFinite(n)) onChange(n);
      }}
    />
  );
}
