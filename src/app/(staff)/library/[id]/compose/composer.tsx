"use client";
import { Link } from "@/ui/kit/link";
import { memo, useCallback, useDeferredValue, useEffect, useMemo, useState } from "react";
import {
  allItems,
  holds,
  isQuestion,
  questionsByKey,
  shownWhenWords,
  sourceLanguage,
  type LineKind,
  type Questionnaire,
} from "@/core/questionnaire";
import type { Id } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Shortcuts, type Shortcut } from "@/ui/kit/shortcuts";
import { putInUseAction } from "./actions";
import { ChartFieldsProvider, useChartFields } from "./chart-fields";
import { kindWords } from "./kind-words";
import { DraftDesk } from "./draft-desk";
import { SavedElsewhere, SaveState, useDraftSaving, useLeave, type DraftSaving } from "./draft-saving";
import { LineSettings } from "./line-settings";
import { FromPaper, type PaperPlace } from "./from-paper";
import { OutlineBranch } from "./outline-row";
import { placesOf } from "@/core/signing";
import { SaidStrip } from "./said-strip";
import type { PageMessages } from "@/i18n/page-words";
import { Preview } from "./preview";
import { ProofPanel } from "./proof-panel";
import { SignersPanel } from "./signers-panel";
import { useHistory, useUndoKeys } from "./use-history";
import { useLineFacts } from "./line-facts";
import type { ComposerView } from "@/usecases/authoring";
import { focus, gridAround, useOutline } from "./use-outline";
import { useProof } from "./use-proof";
import { Beside, WithBeside } from "../beside";

export interface ComposerProps {
  readonly view: ComposerView;
  /** What the client's page says, for the preview. */
  readonly words: PageMessages;
  /** The line to begin at. */
  readonly first: string | undefined;
}
const noKeys: readonly Shortcut[] = [];
const typingKeys = [
  { key: "Enter", does: "make the next line" },
  { key: "Alt ↑ ↓", does: "move the line, or its whole section" },
  { key: "↑ ↓", does: "go to the line above or below" },
  { key: "Shift Enter", does: "a new paragraph in a text to read" },
  { key: "Ctrl Z", does: "undo" },
  { key: "Ctrl Shift Z", does: "redo" },
];
const kinds = [
  { value: "intake", label: "Intake" },
  { value: "consent", label: "Consent" },
  { value: "measure", label: "Measure" },
  { value: "worksheet", label: "Worksheet" },
];

/** An outline to type in, beside the client's live page. */
export function Composer({ view, first, words }: ComposerProps) {
  const { now: questionnaire, turns, change, undo, redo, canUndo, canRedo } = useHistory(view.questionnaire);
  const [chosen, setChosen] = useState<string | undefined>(first ?? view.questionnaire.items[0]?.linkId);
  useEffect(() => {
    if (first !== undefined) focus(first);
  }, [first]);
  const fields = useMemo(
    () => ({ all: view.fields.map((f) => f.field), offered: view.fields.flatMap((f) => (f.retired ? [] : [f.field])) }),
    [view.fields],
  );
  const report = useProof(questionnaire, fields.all, view.practice);
  const [paper, setPaper] = useState<PaperPlace>();
  const pasted = useCallback((linkId: string, text: string) => setPaper({ after: linkId, text }), []);
  const { said, add, addFromChart, addAll, actions, settings } = useOutline(
    questionnaire,
    change,
    fields,
    setChosen,
    pasted,
  );
  const saving = useDraftSaving(view, questionnaire);
  const { flush } = saving;
  const leave = useLeave(saving);
  useUndoKeys(undo, redo);
  const go = useCallback((linkId: string): void => {
    setChosen(linkId);
    focus(linkId);
  }, []);
  // What is beside and below the line may come a moment after the letter that was typed; the line itself may not.
  const { questionnaire: settled, turns: settledTurns } = useDeferredValue(
    useMemo(() => ({ questionnaire, turns }), [questionnaire, turns]),
  );
  const settledKeys = useMemo(() => questionsByKey(settled), [settled]);
  const facts = useLineFacts(settled, settledKeys, report, fields);
  const last = allItems(questionnaire).at(-1)?.linkId;
  const asked = allItems(settled)
    .flatMap((i) => (i.type !== "display" && i.posting ? [i.posting.field] : []))
    .join(" ");
  return (
    <ChartFieldsProvider value={fields}>
      <WithBeside>
        <Page
          title={questionnaire.title || "Untitled"}
          margin={
            <>
              Composer
              <br />
              {view.inUseNumber === undefined ? "draft" : `draft after version ${view.inUseNumber}`}
            </>
          }
          actions={
            <Tools
              id={view.id}
              state={saving.state}
              savedAt={saving.savedAt}
              canUndo={canUndo}
              canRedo={canRedo}
              undo={undo}
              redo={redo}
              leave={leave}
            />
          }
        >
          <SavedElsewhere saving={saving} />
          <DraftDesk id={view.id} saving={saving}>
            <Head
              title={questionnaire.title}
              kind={questionnaire.kind}
              signed={questionnaire.signed}
              change={change}
              onBlur={flush}
            />
            <div role="group" aria-label="Outline">
              <Branches
                {...{
                  id: view.id,
                  questionnaire,
                  settled,
                  settledTurns,
                  settledKeys,
                  facts,
                  chosen,
                  report,
                  actions,
                  settings,
                }}
              />
            </div>
            <SaidStrip said={said} now={questionnaire} undo={undo} />
            <AddLines last={last} add={add} addFromChart={addFromChart} asked={asked} />
            <FromPaper
              place={paper}
              open={() => setPaper({ after: last, text: "" })}
              close={() => setPaper(undefined)}
              url={questionnaire.url}
              add={addAll}
            />
            <SignersPanel questionnaire={settled} change={change} onGo={go} />
            <SectionTitle>Proof</SectionTitle>
            <ProofPanel report={report} onGo={go} />
            <PutInUse
              id={view.id}
              inUseNumber={view.inUseNumber}
              isConsent={questionnaire.kind === "consent"}
              errors={report?.findings.some((f) => f.level === "error")}
              flush={flush}
            />
          </DraftDesk>
          <Shortcuts list={noKeys} also={typingKeys} />
        </Page>
        <Beside aria-label="What the client sees">
          <Preview questionnaire={settled} chosen={chosen} words={words} />
        </Beside>
      </WithBeside>
    </ChartFieldsProvider>
  );
}

/** Branch by branch, so that a letter typed into one leaves the others as they are. */
function Branches({
  id,
  questionnaire,
  settled,
  settledTurns,
  settledKeys,
  facts,
  chosen,
  report,
  actions,
  settings,
}: {
  readonly id: Id<"Questionnaire">;
  readonly questionnaire: Questionnaire;
  readonly settled: Questionnaire;
  readonly settledTurns: number;
  readonly settledKeys: ReturnType<typeof questionsByKey>;
  readonly facts: ReturnType<typeof useLineFacts>;
  readonly chosen: string | undefined;
  readonly report: ReturnType<typeof useProof>;
  readonly actions: ReturnType<typeof useOutline>["actions"];
  readonly settings: ReturnType<typeof useOutline>["settings"];
}) {
  const [chosenItem, earlier] = useMemo(() => {
    const all = allItems(settled);
    const at = all.findIndex((i) => i.linkId === chosen);
    return [all[at], all.slice(0, Math.max(0, at)).filter(isQuestion)] as const;
  }, [settled, chosen]);
  const places = useMemo(() => placesOf(settled), [settled]);
  return questionnaire.items.map((item) => {
    const within = chosen !== undefined && (item.linkId === chosen || holds(item, chosen));
    return (
      <OutlineBranch
        key={item.linkId}
        item={item}
        facts={facts}
        chosen={within ? chosen : undefined}
        actions={actions}
        settings={
          within &&
          chosenItem && (
            <LineSettings
              inGrid={gridAround(settled, chosenItem.linkId) !== undefined}
              id={id}
              url={questionnaire.url}
              language={sourceLanguage(questionnaire)}
              item={chosenItem}
              places={places}
              sheetUrl={questionnaire.sheet && `/api/questionnaires/${id}/sheet`}
              turns={settledTurns}
              earlier={earlier}
              sentence={shownWhenWords(chosenItem, settledKeys)}
              range={report?.facts.scores.find((s) => s.linkId === chosen)?.range}
              actions={settings}
            />
          )
        }
      />
    );
  });
}

// Parts that a letter typed into the outline does not concern; kept apart so that it does not draw them anew.
interface ToolsProps {
  readonly state: DraftSaving["state"];
  readonly savedAt: DraftSaving["savedAt"];
  readonly id: Id<"Questionnaire">;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly leave: ReturnType<typeof useLeave>;
}
const Tools = memo(function Tools({ id, state, savedAt, canUndo, canRedo, undo, redo, leave }: ToolsProps) {
  return (
    <Cluster>
      <SaveState state={state} savedAt={savedAt} />
      <Button weight="quiet" isDisabled={!canUndo} onPress={undo}>
        Undo
      </Button>
      <Button weight="quiet" isDisabled={!canRedo} onPress={redo}>
        Redo
      </Button>
      <Link href={`/library/${id}/map`} onClick={leave}>
        Map
      </Link>
      <Link href={`/library/${id}/languages`} onClick={leave}>
        Languages
      </Link>
      <Link href={`/library/${id}/rehearse`} onClick={leave}>
        Rehearse
      </Link>
      <Link href={`/library/${id}`} onClick={leave}>
        Done
      </Link>
    </Cluster>
  );
});
const Head = memo(function Head({
  title,
  kind,
  signed,
  change,
  onBlur,
}: {
  readonly title: string;
  readonly kind: Questionnaire["kind"];
  readonly signed: boolean;
  readonly change: (step: (now: Questionnaire) => Questionnaire, mark?: string) => void;
  readonly onBlur: () => Promise<boolean>;
}) {
  return (
    <MarginRow margin="Title">
      <Stack $gap="0.8rem">
        <TextField
          label="Title"
          value={title}
          onChange={(next) => change((now) => ({ ...now, title: next }), "title")}
          onBlur={() => void onBlur()}
        />
        <Cluster $gap="0.8rem">
          <Pick
            small
            bare
            label="Kind of questionnaire"
            value={kind}
            options={kinds}
            onChange={(next) => change((now) => ({ ...now, kind: next as Questionnaire["kind"] }))}
          />
          <Checkbox
            label="The client signs it"
            isSelected={signed}
            onChange={(next) => change((now) => ({ ...now, signed: next }))}
          />
        </Cluster>
      </Stack>
    </MarginRow>
  );
});
interface AddLinesProps {
  readonly last: string | undefined;
  readonly add: (after: string | undefined, kind: LineKind) => void;
  readonly addFromChart: (after: string | undefined, field: string) => void;
  /** Keys of the chart fields that are asked already, with blanks between. */
  readonly asked: string;
}
const AddLines = memo(function AddLines({ last, add, addFromChart, asked }: AddLinesProps) {
  // Results are what scores put there; nobody is asked for them.
  const fields = useChartFields().offered.filter((f) => f.section !== "results" && !asked.split(" ").includes(f.key));
  return (
    <MarginRow margin={last === undefined ? "Begin here" : "Add"}>
      <Stack $gap="0.5rem">
        <Cluster>
          {(["short-text", "yes-no", "one-of", "several-of", "section", "text", "score"] as const).map((kind) => (
            <Button key={kind} weight="quiet" onPress={() => add(last, kind)}>
              {kindWords[kind]}
            </Button>
          ))}
        </Cluster>
        {fields.length > 0 && (
          <Pick
            small
            label="Add a chart field"
            value=""
            placeholder="Choose a chart field"
            options={fields.map((f) => ({ value: f.key, label: f.label }))}
            onChange={(key) => addFromChart(last, key)}
          />
        )}
        <Soft>
          Enter makes the next line; Shift with Enter a new paragraph in a text to read. Alt with an arrow key moves it.
          A mark and a blank before the words set the kind: # section, () one of, [] several of, y/n yes or no, -- text.
        </Soft>
      </Stack>
    </MarginRow>
  );
});
const PutInUse = memo(function PutInUse({
  id,
  inUseNumber,
  isConsent,
  errors,
  flush,
}: {
  readonly id: Id<"Questionnaire">;
  /** Who agreed to an earlier version may have to agree anew. */
  readonly isConsent: boolean;
  readonly inUseNumber: number | undefined;
  readonly errors: boolean | undefined;
  readonly flush: () => Promise<boolean>;
}) {
  const [material, setMaterial] = useState(false);
  return (
    <MarginRow margin={inUseNumber === undefined ? "Not in use yet" : `Version ${inUseNumber} is in use`}>
      <Stack>
        <p>
          {inUseNumber === undefined
            ? "Once in use it can be sent."
            : "Packets already sent stay on their version; new ones get this."}{" "}
          A version in use never changes.
        </p>
        {errors ? <Soft>Correct the errors first.</Soft> : null}
        <ActionForm
          action={async (previous, sent) =>
            (await flush())
              ? putInUseAction(previous, sent)
              : { message: "The last changes could not be saved, so it was not put in use." }
          }
          submit="Put in use"
          hidden={{ id, material: material ? "yes" : "no" }}
          disabled={errors !== false}
        >
          {isConsent && inUseNumber !== undefined && (
            <Checkbox
              label="The text changed in what it means: who agreed to an earlier version is to be asked anew"
              isSelected={material}
              onChange={setMaterial}
            />
          )}
        </ActionForm>
      </Stack>
    </MarginRow>
  );
});
