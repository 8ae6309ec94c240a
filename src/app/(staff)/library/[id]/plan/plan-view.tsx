"use client";
import { useState, useTransition } from "react";
import styled from "styled-components";
import {
  chartSections,
  chartSectionTitles,
  fedTwice,
  fieldByKey,
  isNarrative,
  usualRule,
  type ChartField,
  type ChartSection,
  type PlanReason,
} from "@/core/chart";
import type { PostingRule } from "@/core/questionnaire";
import { Button } from "@/ui/kit/button";
import { ActionForm } from "@/ui/kit/form";
import { Strip } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Cluster, MarginRow, Page, SectionTitle, Soft } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment } from "@/ui/kit/time";
import type { PlanLineView, PlanView as View } from "@/usecases/charting";
import { dropPlanAction, keepPlanAction, offerPlanAction, takePlanAction } from "./actions";

/** Where every line of a questionnaire goes in the chart: complete from the start, and moved where one disagrees. */
export function PlanView({ view }: { readonly view: View }) {
  const [failed, setFailed] = useState<string>();
  const [saving, startSaving] = useTransition();
  const mayMove = view.whose === "own" || view.mayChange;
  const asked = view.lines.filter((line) => line.kind !== "remarks");
  const goes = asked.filter((line) => line.target !== undefined).length;
  const keep = (change: Partial<PlanLineView> & { readonly linkId: string }, order = view.order): void =>
    startSaving(async () => {
      const lines = view.lines
        .map((line) => (line.linkId === change.linkId ? { ...line, ...change } : line))
        .flatMap(({ linkId, target, why }) =>
          why === "hand" ? [{ linkId, field: target?.field ?? null, ...(target ? { rule: target.rule } : {}) }] : [],
        );
      const { questionnaireId, whose, revision } = view;
      setFailed(await keepPlanAction({ questionnaireId, whose, revision, lines, order }));
    });
  const move = (linkId: string, field: ChartField | undefined): void =>
    keep({
      linkId,
      why: "hand",
      target: field && { field: field.key, rule: usualRule(field) },
    });
  const tell = (linkId: string, rule: PostingRule): void => {
    const line = view.lines.find((one) => one.linkId === linkId);
    if (line?.target) keep({ linkId, why: "hand", target: { ...line.target, rule } });
  };
  const lift = (linkId: string, among: readonly PlanLineView[]): void => {
    const told = among.map((line) => line.linkId);
    const at = told.indexOf(linkId);
    if (at < 1) return;
    told.splice(at - 1, 2, told[at]!, told[at - 1]!);
    keep({ linkId }, [...view.order.filter((one) => !told.includes(one)), ...told]);
  };
  const stays = view.lines.filter((line) => line.target === undefined);
  return (
    <Page
      title={
        <>
          Posting plan of <bdi>{view.title}</bdi>
        </>
      }
      margin={`${goes} of ${asked.length} go to the chart`}
    >
      <Strip as="nav" aria-label="This plan">
        <Link href={`/library/${view.questionnaireId}`}>The questionnaire</Link>
        <Link
          href={`/library/${view.questionnaireId}/plan?whose=practice`}
          aria-current={view.whose === "practice" ? "page" : undefined}
        >
          The practice’s plan
        </Link>
        <Link
          href={`/library/${view.questionnaireId}/plan?whose=own`}
          aria-current={view.whose === "own" ? "page" : undefined}
        >
          {view.own ? "Your variant" : "A variant of your own"}
        </Link>
        <Soft role="status">{saving ? "Keeping…" : <Kept view={view} />}</Soft>
      </Strip>
      {failed && <Notice tone="problem">{failed}</Notice>}
      <About view={view} />
      {chartSections.filter(holdsFields(view)).map((section) => (
        <Section key={section} title={chartSectionTitles[section]}>
          {view.fields
            .filter((field) => field.section === section)
            .map((field) => (
              <Field
                key={field.key}
                field={field}
                lines={inOrder(view, field)}
                {...{ view, mayMove, move, tell, lift }}
              />
            ))}
        </Section>
      ))}
      <Section title="Stays in the return">
        <Drop accepts={() => mayMove} onDrop={(linkId) => move(linkId, undefined)}>
          {stays.length === 0 ? (
            <Soft>Everything goes to the chart.</Soft>
          ) : (
            stays.map((line) => <OneLine key={line.linkId} {...{ line, view, mayMove, move, tell }} lift={undefined} />)
          )}
        </Drop>
      </Section>
    </Page>
  );
}
const holdsFields =
  ({ fields }: View) =>
  (section: ChartSection): boolean =>
    fields.some((field) => field.section === section);
function Kept({ view }: { readonly view: View }) {
  if (!view.kept) return view.whose === "own" ? "As the practice’s plan stands" : "As it is proposed";
  return (
    <>
      Kept <Moment at={view.updatedAt!} />, <bdi>{view.updatedBy}</bdi>
    </>
  );
}
/** What is new, what is fed twice, and whose plans there are. */
function About({ view }: { readonly view: View }) {
  const fresh = view.lines.filter((line) => line.isNew);
  const twice = fedTwice(view.lines, view.fields);
  const { questionnaireId, own } = view;
  return (
    <>
      {fresh.length > 0 && (
        <Notice tone="attention">
          <strong>{fresh.length === 1 ? "One line is" : `${fresh.length} lines are`} new</strong> since the plan was
          kept: {fresh.map((line) => `“${line.text}”`).join(", ")}. All else went over.
        </Notice>
      )}
      {twice.length > 0 && (
        <Notice tone="attention">
          {twice.map((key) => fieldByKey(key, view.fields)?.label).join(", ")}: one fact, and several answers go to it.
          Each is decided at Reconcile; better let one of them stay.
        </Notice>
      )}
      {!view.mayChange && view.whose === "practice" && (
        <Notice tone="attention">
          Only who may change the questionnaire moves lines here. A variant of your own holds for what you post.
        </Notice>
      )}
      {(view.offers.length > 0 || (view.whose === "own" && own)) && (
        <MarginRow margin="Variants">
          <Cluster>
            {view.whose === "own" && own && (
              <>
                <ActionForm
                  action={offerPlanAction}
                  submit={own.offered ? "Offer it no longer" : "Offer it to colleagues"}
                  weight="plain"
                  hidden={{ questionnaireId, offered: own.offered ? "" : "yes" }}
                />
                <ActionForm
                  action={dropPlanAction}
                  submit="Go by the practice’s plan again"
                  weight="quiet"
                  hidden={{ questionnaireId }}
                />
              </>
            )}
            {view.offers.map((offer) => (
              <ActionForm
                key={offer.id}
                action={takePlanAction}
                submit={`Take over what ${offer.by} offers`}
                weight="plain"
                hidden={{ questionnaireId, planId: offer.id }}
              />
            ))}
          </Cluster>
        </MarginRow>
      )}
    </>
  );
}
/** The lines of a field, in the order their answers are told. */
function inOrder({ lines, order }: View, { key }: ChartField): readonly PlanLineView[] {
  const place = ({ linkId }: PlanLineView): number => {
    const at = order.indexOf(linkId);
    return at < 0 ? order.length : at;
  };
  return lines.filter((line) => line.target?.field === key).sort((one, other) => place(one) - place(other));
}

interface Moves {
  readonly view: View;
  readonly mayMove: boolean;
  readonly move: (linkId: string, field: ChartField | undefined) => void;
  readonly tell: (linkId: string, rule: PostingRule) => void;
}
function Section({ title, children }: { readonly title: string; readonly children: React.ReactNode }) {
  return (
    <section aria-label={title}>
      <SectionTitle>{title}</SectionTitle>
      {children}
    </section>
  );
}
function Field({
  field,
  lines,
  lift,
  ...moves
}: Moves & {
  readonly field: ChartField;
  readonly lines: readonly PlanLineView[];
  readonly lift: (linkId: string, among: readonly PlanLineView[]) => void;
}) {
  const { view, mayMove, move } = moves;
  const shared = isNarrative(field) && lines.length > 1;
  return (
    <Drop
      accepts={(linkId) =>
        mayMove && view.lines.some((line) => line.linkId === linkId && line.fits.includes(field.key))
      }
      onDrop={(linkId) => move(linkId, field)}
    >
      <Row $empty={lines.length === 0}>
        <span>
          {field.label}
          {shared && <Soft> each led by its question</Soft>}
        </span>
        <div>
          {lines.map((line, index) => (
            <OneLine
              key={line.linkId}
              line={line}
              {...moves}
              lift={shared && index > 0 ? () => lift(line.linkId, lines) : undefined}
            />
          ))}
        </div>
      </Row>
    </Drop>
  );
}
const whyWords: Readonly<Record<PlanReason, string>> = {
  hand: "moved by hand",
  bound: "it asks for this field",
  earlier: "as the same words went before",
  code: "by its code",
  words: "by its words",
  none: "",
};
const ruleWords: Readonly<Record<PostingRule, string>> = {
  ask: "is decided at Reconcile",
  replace: "takes the place of what is there",
  add: "is added to what is there",
  "fill-if-blank": "only where nothing is there",
};
const listRules: Readonly<Record<PostingRule, string>> = { ...ruleWords, ask: "is matched row by row" };
function OneLine({
  line,
  view,
  mayMove,
  move,
  tell,
  lift,
}: Moves & { readonly line: PlanLineView; readonly lift: (() => void) | undefined }) {
  const field = view.fields.find((one) => one.key === line.target?.field);
  const words = field?.kind === "rows" ? listRules : ruleWords;
  return (
    <Line
      draggable={mayMove}
      onDragStart={(event) => {
        event.dataTransfer.setData(dragType, line.linkId);
        event.dataTransfer.effectAllowed = "move";
      }}
    >
      <span>
        <bdi>{line.text}</bdi>{" "}
        <Soft>
          {line.isNew ? <strong>new, </strong> : null}
          {line.kind === "score" ? "a score, " : ""}
          {line.kind === "remarks" ? "staff’s own " : ""}
          {whyWords[line.why]}
        </Soft>
      </span>
      {mayMove && (
        <Cluster $gap="0.2rem 0.6rem">
          {field && !field.identity && (
            <Pick
              bare
              small
              label={`What happens with “${line.text}”`}
              value={line.target!.rule}
              options={Object.entries(words).map(([value, label]) => ({ value, label }))}
              onChange={(rule) => tell(line.linkId, rule as PostingRule)}
            />
          )}
          <Pick
            bare
            small
            label={`Where “${line.text}” goes`}
            value={line.target?.field ?? ""}
            placeholder="stays in the return"
            options={[
              { value: "", label: "stays in the return" },
              ...view.fields
                .filter((one) => line.fits.includes(one.key))
                .map((one) => ({ value: one.key, label: `${chartSectionTitles[one.section]}: ${one.label}` })),
            ]}
            onChange={(key) =>
              move(
                line.linkId,
                view.fields.find((one) => one.key === key),
              )
            }
          />
          {lift && (
            <Button weight="quiet" onPress={lift} aria-label={`Tell “${line.text}” earlier`}>
              earlier
            </Button>
          )}
        </Cluster>
      )}
    </Line>
  );
}

const dragType = "application/x-plan-line";
/** Where a line can be let go of. */
function Drop({
  accepts,
  onDrop,
  children,
}: {
  readonly accepts: (linkId: string) => boolean;
  readonly onDrop: (linkId: string) => void;
  readonly children: React.ReactNode;
}) {
  const [over, setOver] = useState(false);
  return (
    <Target
      data-over={over || undefined}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(dragType)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const linkId = event.dataTransfer.getData(dragType);
        if (linkId !== "" && accepts(linkId)) onDrop(linkId);
      }}
    >
      {children}
    </Target>
  );
}
const Target = styled.div`
  &[data-over] {
    background: var(--plum-wash);
  }
`;
const Row = styled.div<{ $empty: boolean }>`
  display: grid;
  grid-template-columns: var(--margin-column) minmax(0, 1fr);
  border-block-end: 1px solid var(--rule);
  font-size: ${({ $empty }) => ($empty ? "var(--small)" : "inherit")};
  & > span {
    padding-block: 0.25rem;
    padding-inline-end: 0.6rem;
    color: var(--soft);
    font-size: var(--small);
    border-inline-end: 1px solid var(--rule-strong);
  }
  & > div {
    padding-inline-start: var(--inset);
  }
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
    & > span {
      border: 0;
    }
  }
`;
const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 0.1rem 1rem;
  padding-block: 0.15rem;
  &[draggable="true"] {
    cursor: grab;
  }
  & > span {
    flex: 1 1 18rem;
    min-width: 0;
    overflow-wrap: anywhere;
  }
`;
