"use client";
import { mostBytes } from "@/core/files";
import { useState } from "react";
import { Button } from "@/ui/kit/button";
import { Checkbox, CheckboxGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { FileForm } from "@/ui/kit/file-form";
import { ActionForm, type FormState } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment } from "@/ui/kit/time";
import type { StandingPackets } from "@/usecases/authoring";
import type { LeafletLine } from "@/usecases/practice";
import { addLeafletAction, putStandingAction, removeStandingAction, retireLeafletAction } from "./actions";

type StandingPacket = StandingPackets["list"][number];
export interface StandingViewProps {
  readonly newId: string;
  readonly packets: StandingPackets;
  readonly leaflets: readonly LeafletLine[];
}
/** Lists of questionnaires that are sent together again and again, and the leaflets that go along. */
export function StandingView({ packets, leaflets, newId }: StandingViewProps) {
  const [open, setOpen] = useState<string>();
  const titleOf = (id: string): string =>
    packets.questionnaires.find((q) => q.id === id)?.title ?? "one that is no longer in use";
  const countWords = () => {
    if (packets.list.length === 0) return "none yet";
    if (packets.list.length === 1) return "one packet";
    return `${packets.list.length} packets`;
  };
  return (
    <Page title="Standing packets" margin={countWords()}>
      {packets.list.length === 0 && (
        <MarginRow margin="">
          <p>
            None yet. What you send together again and again, put together once: pick its questionnaires below, in
            order, and say which kinds of visit it is for.
          </p>
        </MarginRow>
      )}
      {packets.list.map((packet) => (
        <MarginRow
          key={packet.id}
          margin={
            packet.visitTypes.length > 0
              ? packets.visitTypes
                  .filter((v) => packet.visitTypes.some((t) => t === v.id))
                  .map((v) => v.name)
                  .join(", ")
              : "any visit"
          }
        >
          {open === packet.id ? (
            <StandingForm packets={packets} start={packet} id={packet.id} done={() => setOpen(undefined)} />
          ) : (
            <Stack $gap="0.4rem">
              <strong>{packet.title}</strong>
              <ol>
                {packet.questionnaires.map((q, i) => (
                  <li key={q.id}>
                    <Soft className="figures">{i + 1}. </Soft>
                    {titleOf(q.id)} {q.prefill && <Soft>begun with what is on file</Soft>}
                  </li>
                ))}
              </ol>
              {packet.leaflets.length > 0 && (
                <Soft>
                  With{" "}
                  {leaflets
                    .filter((l) => packet.leaflets.includes(l.id))
                    .map((l) => l.title)
                    .join(", ")}
                </Soft>
              )}
              <Cluster>
                <Button weight="quiet" aria-label={`Change ${packet.title}`} onPress={() => setOpen(packet.id)}>
                  Change
                </Button>
                <ActionForm
                  action={removeStandingAction}
                  submit={`Remove “${packet.title}”`}
                  weight="quiet"
                  hidden={{ id: packet.id }}
                />
              </Cluster>
            </Stack>
          )}
        </MarginRow>
      ))}
      <SectionTitle>New standing packet</SectionTitle>
      <MarginRow margin="New">
        <StandingForm key={newId} packets={packets} id={newId} />
      </MarginRow>
      <SectionTitle>Leaflets</SectionTitle>
      {leaflets
        .filter((l) => !l.retired)
        .map((line) => (
          <MarginRow key={line.id} margin={<Moment at={line.createdAt} as="day" />}>
            <Cluster $gap="0.4rem 1.5rem">
              <a href={`/api/leaflets/${line.id}`}>{line.title}</a>
              <ActionForm
                action={retireLeafletAction}
                submit={`Retire ${line.title}`}
                weight="quiet"
                hidden={{ id: line.id }}
              />
            </Cluster>
          </MarginRow>
        ))}
      <MarginRow margin="Add one">
        <Stack $gap="0.6rem">
          <p>A PDF or a picture. It goes along with the e-mail, and stands on the client’s page to be read.</p>
          <FileForm
            action={addLeafletAction}
            initial={{} as FormState}
            label="Choose a file"
            accept={["application/pdf", "image/png", "image/jpeg", "image/webp"]}
            most={mostBytes}
          >
            {(state) => (state.message ? <Notice tone="problem">{state.message}</Notice> : null)}
          </FileForm>
        </Stack>
      </MarginRow>
    </Page>
  );
}

function StandingForm({
  packets,
  start,
  id,
  done,
}: {
  readonly packets: StandingViewProps["packets"];
  readonly start?: StandingPacket;
  readonly id: string;
  readonly done?: () => void;
}) {
  const [lines, setLines] = useState<readonly { readonly id: string; readonly prefill: boolean }[]>(
    start?.questionnaires ?? [],
  );
  const [types, setTypes] = useState<readonly string[]>(start?.visitTypes ?? []);
  const [sheets, setSheets] = useState<readonly string[]>(start?.leaflets ?? []);
  const titleOf = (q: string): string => packets.questionnaires.find((x) => x.id === q)?.title ?? "no longer in use";
  const move = (i: number, by: -1 | 1): void => {
    const next = [...lines];
    const [line] = next.splice(i, 1);
    next.splice(i + by, 0, line!);
    setLines(next);
  };
  return (
    <ActionForm
      action={putStandingAction}
      submit={start ? `Save “${start.title}”` : "Save"}
      weight={start ? "primary" : "plain"}
      disabled={lines.length === 0}
      hidden={{ id }}
    >
      <TextField name="title" label="Title" defaultValue={start?.title ?? ""} maxLength={200} />
      {lines.length > 0 && (
        <ol aria-label="Its questionnaires, in order">
          {lines.map((line, index) => (
            <li key={line.id}>
              <Cluster $gap="0.3rem 1rem">
                <span style={{ flex: "1 1 14rem" }}>
                  <Soft className="figures">{index + 1}. </Soft>
                  {titleOf(line.id)}
                </span>
                <Button
                  weight="quiet"
                  isDisabled={index === 0}
                  aria-label={`Move ${titleOf(line.id)} up`}
                  onPress={() => move(index, -1)}
                >
                  Up
                </Button>
                <Button
                  weight="quiet"
                  isDisabled={index === lines.length - 1}
                  aria-label={`Move ${titleOf(line.id)} down`}
                  onPress={() => move(index, 1)}
                >
                  Down
                </Button>
                <Button
                  weight="quiet"
                  aria-label={`Take ${titleOf(line.id)} out`}
                  onPress={() => setLines(lines.filter((x) => x !== line))}
                >
                  Take out
                </Button>
                <Checkbox
                  isSelected={line.prefill}
                  onChange={(prefill) => setLines(lines.map((x) => (x === line ? { ...x, prefill } : x)))}
                  label="begun with what is on file"
                />
              </Cluster>
              <input type="hidden" name="questionnaireIds" value={line.id} />
              {line.prefill && <input type="hidden" name="prefillIds" value={line.id} />}
            </li>
          ))}
        </ol>
      )}
      <div style={{ maxInlineSize: "28rem" }}>
        <Pick
          label="Add a questionnaire"
          value=""
          placeholder="choose one"
          options={packets.questionnaires
            .filter((q) => !lines.some((l) => l.id === q.id))
            .map((q) => ({ value: q.id, label: `${q.title}, ${q.kind}` }))}
          onChange={(q) => {
            if (q) setLines([...lines, { id: q, prefill: false }]);
          }}
        />
      </div>
      <CheckboxGroup
        label="Kinds of visit"
        value={[...types]}
        onChange={setTypes}
        options={packets.visitTypes.map((v) => ({ value: v.id, label: v.name }))}
      />
      {packets.leaflets.length > 0 && (
        <CheckboxGroup
          label="Leaflets that go with it"
          value={[...sheets]}
          onChange={setSheets}
          options={packets.leaflets.map((l) => ({ value: l.id, label: l.title }))}
        />
      )}
      {types.map((t) => (
        <input key={t} type="hidden" name="visitTypeIds" value={t} />
      ))}
      {sheets.map((s) => (
        <input key={s} type="hidden" name="leafletIds" value={s} />
      ))}
      {done && (
        <div>
          <Button weight="quiet" onPress={done}>
            Leave it as it was
          </Button>
        </div>
      )}
    </ActionForm>
  );
}
