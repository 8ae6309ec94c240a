"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import styled from "styled-components";
import type { MergeLine } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import { ChoiceRow, type RowChoice } from "@/ui/kit/choice-row";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { MergePreview, MergeSide } from "@/usecases/charting";
import { LookUpPerson } from "../../../look-up-person";
import { mergeAction, undoMergeAction } from "./actions";

type Choice = "keep" | "take";
/** Which other record is of the same person. */
export function MergeChoice({ clientId, name }: { readonly clientId: string; readonly name: string }) {
  const router = useRouter();
  return (
    <Page title="Merge two records" margin={<Link href={`/people/${clientId}`}>{name}</Link>}>
      <MarginRow margin="The other record">
        <LookUpPerson
          label="Client"
          value=""
          onChange={(id) => {
            if (id !== "" && id !== clientId) router.push(`/people/${clientId}/merge?with=${id}`);
          }}
          problem={undefined}
        />
      </MarginRow>
    </Page>
  );
}

export function MergeView({ preview, requestId }: { readonly preview: MergePreview; readonly requestId: string }) {
  const { kept, gone, lines, seen } = preview;
  const [decided, setDecided] = useState<Readonly<Record<string, Choice>>>({});
  const choose = (id: string, choice: Choice): void => setDecided({ ...decided, [id]: choice });
  const differing = lines.filter(({ status }) => status === "differs");
  const added = lines.filter(({ status }) => status === "only-there");
  const left = differing.filter(({ id }) => decided[id] === undefined).length;
  return (
    <Page
      title="Merge two records"
      margin={left === 0 ? "All decided" : `${left} to decide`}
      actions={<Link href={`/people/${gone.id}/merge?with=${kept.id}`}>Keep the other one instead</Link>}
    >
      <MarginRow margin="Is kept">
        <Side side={kept} />
      </MarginRow>
      <MarginRow margin="Goes into it">
        <Side side={gone} />
      </MarginRow>
      {differing.length > 0 && <SectionTitle>Differs: kept, and other</SectionTitle>}
      {differing.map((line) => (
        <OneLine key={line.id} line={line} choices={keepOrTake} choice={decided[line.id]} onChoose={choose} />
      ))}
      {added.length > 0 && <SectionTitle>Only in the other record</SectionTitle>}
      {added.map((line) => (
        <OneLine key={line.id} line={line} choices={addOrLeave} choice={decided[line.id] ?? "take"} onChoose={choose} />
      ))}
      {lines.length === 0 && <MarginRow margin="">The charts say the same.</MarginRow>}
      <MarginRow margin="What will happen">
        <Stack>
          <p>
            Packets, visits, notes and relations of the other record go over, and it is found no more. It can be undone
            from the chart.
          </p>
          <ActionForm
            action={mergeAction}
            submit={`Merge into ${kept.name}`}
            disabled={left > 0}
            hidden={{ requestId, keptId: kept.id, goneId: gone.id, seen, decided: JSON.stringify(decided) }}
          />
        </Stack>
      </MarginRow>
    </Page>
  );
}
const keepOrTake: readonly RowChoice<Choice>[] = [
  { value: "keep", label: "Keep" },
  { value: "take", label: "Take" },
];
const addOrLeave: readonly RowChoice<Choice>[] = [
  { value: "take", label: "Add" },
  { value: "keep", label: "Leave out" },
];
interface OneLineProps {
  readonly line: MergeLine;
  readonly choices: readonly RowChoice<Choice>[];
  readonly choice: Choice | undefined;
  readonly onChoose: (id: string, choice: Choice) => void;
}
function OneLine({ line: { id, field, kept, gone }, choices, choice, onChoose }: OneLineProps) {
  const { locale } = useTimeFrame();
  return (
    <MarginRow
      margin={
        <ChoiceRow label={field.label} choices={choices} value={choice} onChange={(chosen) => onChoose(id, chosen)} />
      }
    >
      <Two>
        <Soft>{field.label}</Soft>
        <Value $dim={choice === "take"}>{textOf(kept, field.kind, locale)}</Value>
        <Value $dim={choice === "keep"}>{textOf(gone, field.kind, locale)}</Value>
      </Two>
    </MarginRow>
  );
}
function textOf(value: MergeLine["gone"] | undefined, kind: MergeLine["field"]["kind"], locale: string): string {
  if (typeof value === "string") return kind === "date" ? dateWords(value, locale) : value;
  return Object.values(value ?? {})
    .filter(Boolean)
    .join(", ");
}
/** What a line is, what stands in the record that is kept, and what in the other. */
const Two = styled.div`
  display: grid;
  grid-template-columns: 10rem minmax(0, 1fr) minmax(0, 1fr);
  gap: 0.25rem 1rem;
  align-items: center;
  min-height: 2rem;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Value = styled.bdi<{ $dim: boolean }>`
  opacity: ${({ $dim }) => ($dim ? 0.6 : 1)};
  text-decoration: ${({ $dim }) => ($dim ? "line-through" : "none")};
`;
function Side({ side }: { readonly side: MergeSide }) {
  const { locale } = useTimeFrame();
  const { packets, visits, notes } = side.counts;
  return (
    <>
      <strong>
        <bdi>{side.name}</bdi>
      </strong>
      <Soft>
        {side.birthDate ? `, born ${dateWords(side.birthDate, locale)}` : ""} · {counted(packets, "packet")},{" "}
        {counted(visits, "visit")}, {counted(notes, "note")}
      </Soft>
    </>
  );
}
const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? "" : "s"}`;

export function UndoMerge({ clientId, mergeId }: { readonly clientId: string; readonly mergeId: string }) {
  return (
    <Page title="Undo the merge">
      <MarginRow margin="What will happen">
        <Stack>
          <p>
            Each record has its own packets, visits, notes and values again. What came since the merge stays with the
            record that was kept.
          </p>
          <ActionForm action={undoMergeAction} submit="Make them two again" hidden={{ mergeId }} />
          <p>
            <Link href={`/people/${clientId}`}>Leave it as it is</Link>
          </p>
        </Stack>
      </MarginRow>
    </Page>
  );
}
