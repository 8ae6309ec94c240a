"use client";
import { memo, useCallback, useDeferredValue, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import styled from "styled-components";
import {
  allItems,
  answerText,
  checkAnswers,
  dateWords,
  isQuestion,
  isSection,
  linkIdOf,
  shownQuestions,
  type AnswerProblem,
  type Answers,
  type AnswerValue,
  type Placed,
  type Twin,
} from "@/core/questionnaire";
import { clientLanguages, languageNames } from "@/i18n/languages";
import { clockTime } from "@/i18n/moments";
import type { ClientMessages } from "@/i18n/client/en";
import { problemTranslator, translator, type FillWords } from "@/i18n/translator";
import { directionOf, type Id } from "@/core/shared";
import type { LinkRole, SentBackLine } from "@/core/packet";
import { alertsOf } from "@/core/scoring";
import { intentSentence, placesToSign } from "@/core/signing";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/fields";
import { Notice } from "@/ui/notice";
import { Cluster, Soft, Stack } from "@/ui/page";
import { Pick } from "@/ui/pick";
import { useTimeFrame } from "@/ui/time";
import { Items } from "./section-items";
import { SignStep } from "./sign-step";
import {
  elementId,
  isShown,
  keysIn,
  minutesLeft,
  onlyOpen,
  placedIn,
  problemKey,
  problemsIn,
  stepsOf,
  type FillPart,
  type OnePage,
  type Step,
} from "./steps";
import { usePacket, type Clash, type FillServer } from "./use-packet";
import { UploadProvider } from "./upload";
import { afterPaint, useStepNumber } from "./use-step-number";

/** The page's own words, in one language. */
export interface PageWords {
  readonly language: string;
  readonly messages: Pick<ClientMessages, "fill" | "problem">;
}
export interface FillAppProps {
  readonly words: PageWords;
  readonly server: FillServer;
  readonly view: {
    readonly practiceName: string;
    readonly person: string;
    readonly onBehalfOf: string | undefined;
    readonly parts: readonly FillPart[];
    /** Whether this person fills it in or only reads; who else has it. */
    readonly role?: LinkRole;
    readonly people?: readonly { readonly link: Id<"Link">; readonly name: string; readonly own: boolean }[];
    readonly shared?: boolean;
    readonly oneByOne?: boolean;
    readonly twins?: Readonly<Record<string, readonly Twin[]>>;
    readonly leaflets?: readonly { readonly id: string; readonly title: string }[];
    readonly supportText?: string;
    readonly personalLine?: string | undefined;
    readonly dueOn?: string | undefined;
    readonly sentBack?: readonly SentBackLine[] | undefined;
  };
  /** As the address had it; anything else than a step's number leads to the first. */
  readonly firstStep: string | undefined;
  /** It was returned or closed by somebody else meanwhile. */
  readonly onOver?: () => void;
  /** Inside a page that has its own heading and main part. */
  readonly embedded?: boolean;
}
type Waiting =
  { readonly kind: "idle" } | { readonly kind: "busy" } | { readonly kind: "failed"; readonly words: string };

export function FillApp({
  words: { language, messages },
  view,
  server,
  firstStep,
  onOver,
  embedded = false,
}: FillAppProps) {
  const t = useMemo(() => translator(language, messages, "fill"), [language, messages]);
  const sayProblem = useMemo(() => problemTranslator(language, messages), [language, messages]);
  const frame = useTimeFrame();
  // Until the page's script runs nothing typed could be kept, so nothing can be typed: on a slow line that takes seconds.
  const ready = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const reads = view.role === "reads";
  const { parts, change, signed, state, savedAt, flush, isStopped, clashes, choose } = usePacket(server, view.parts, {
    ...(view.twins ? { twins: view.twins } : {}),
    shared: view.shared === true,
    ...(onOver ? { over: onOver } : {}),
  });
  const nameOf = (link: Id<"Link"> | undefined): string | undefined =>
    view.people?.find((p) => p.link === link && !p.own)?.name;
  const reasons = useMemo(
    () => (view.sentBack ? new Map(view.sentBack.map((l) => [`${l.partId} ${l.key}`, l.reason])) : undefined),
    [view.sentBack],
  );
  const openIn = (p: FillPart): ReadonlySet<string> =>
    new Set((view.sentBack ?? []).filter((l) => l.partId === p.id).map((l) => l.key));
  // Of a packet that was sent back, the pages on which something is open.
  const steps = useMemo(
    () =>
      stepsOf(view.parts, view.oneByOne).filter((score) => {
        if (reads) return score.kind === "review";
        const own = score.kind === "section" ? view.parts.find((p) => p.id === score.part) : undefined;
        return (
          !view.sentBack ||
          !own ||
          score.kind !== "section" ||
          keysIn(placedIn(own.questionnaire, own.answers, score.section)).some((key) =>
            view.sentBack!.some((l) => l.partId === own.id && l.key === key),
          )
        );
      }),
    [view.parts, view.oneByOne, view.sentBack, reads],
  );
  const [at, setAt] = useStepNumber(steps.length, firstStep);
  const step = steps[at]!;
  const placedOf = (p: FillPart, section: OnePage): Placed[] => {
    const all = placedIn(p.questionnaire, p.answers, section);
    return reasons ? onlyOpen(all, openIn(p)) : all;
  };
  const [comment, setComment] = useState("");
  const [before, setBefore] = useState<readonly FillPart[]>();
  const [tried, setTried] = useState<ReadonlySet<number>>(new Set());
  const [waiting, setWaiting] = useState<Waiting>({ kind: "idle" });
  const [unheard, setUnheard] = useState(false);
  const top = useRef<HTMLHeadingElement>(null);
  const partOf = (s: Step): FillPart | undefined =>
    s.kind === "review" ? undefined : parts.find((p) => p.id === s.part);
  const part = partOf(step);

  const say = (p: AnswerProblem): string =>
    sayProblem(p.reason === "wrong-type" ? numberKey(parts, p) : problemKey(p), p.limit ?? "");
  const isEmpty = (s: Step): boolean => {
    const own = partOf(s);
    if (own === undefined) return false;
    return s.kind === "section"
      ? !isShown(placedOf(own, s.section))
      : s.kind === "sign" && !placesToSign(own.questionnaire, own.answers).includes(s.place);
  };
  const go = (to: number): void => {
    setAt(to);
    setWaiting((now) => (now.kind === "idle" ? now : { kind: "idle" }));
  };
  const move = (by: 1 | -1): void => {
    let to = at + by;
    while (to > 0 && to < steps.length - 1 && isEmpty(steps[to]!)) to += by;
    if (to >= 0 && to < steps.length) go(to);
  };
  useEffect(() => {
    if (!embedded) window.scrollTo(0, 0);
    top.current?.focus({ preventScroll: true });
  }, [at, embedded]);

  const { sentBack, supportText } = view;
  const lookThrough = useCallback(
    (score: Step, own: FillPart | undefined) => {
      if (score.kind !== "section" || !own)
        return { placed: [], problems: [], waitingKeys: [], alarming: new Set<string>() };
      const all = placedIn(own.questionnaire, own.answers, score.section);
      const placed = sentBack
        ? onlyOpen(all, new Set(sentBack.filter((l) => l.partId === own.id).map((l) => l.key)))
        : all;
      return {
        placed,
        problems: problemsIn(own.questionnaire, own.answers, score.section),
        waitingKeys:
          own.prefilled.length === 0
            ? []
            : keysIn(placed.filter((p) => p.shown)).filter((key) => own.prefilled.includes(key)),
        alarming: new Set(supportText ? alertsOf(own.questionnaire, own.answers).map((a) => a.key) : []),
      };
    },
    [sentBack, supportText],
  );
  // Once for each answer, not with every word about saving, and a moment after it: a slow phone shows the answer first, then what follows from it.
  const late = useDeferredValue(parts);
  const latePart = late.find((p) => p.id === part?.id);
  const { placed, problems, waitingKeys, alarming } = useMemo(
    () => lookThrough(step, latePart),
    [lookThrough, step, latePart],
  );
  // Leaving a field is often a press on the next one, which is to be seen first.
  const saveSoon = useCallback((): void => afterPaint(() => void flush()), [flush]);
  const sayRight = (): void => {
    if (part)
      change(
        part.id,
        ...waitingKeys.map((key) => ({ kind: "values" as const, key, values: part.answers.values[key] ?? [] })),
      );
  };
  const around = (key: string): { above?: React.ReactNode; below?: React.ReactNode } => {
    if (!part) return {};
    const reason = reasons?.get(`${part.id} ${key}`);
    const clash = clashes.find((c) => c.partId === part.id && c.key === key);
    const by = nameOf(part.kept[`values ${key}`]?.by);
    const earlier =
      (part.answers.values[key] ?? []).length > 0
        ? view.twins?.[`${part.id} ${key}`]
            ?.map((twin) => parts.findIndex((p) => p.id === twin.part))
            .find((i) => i >= 0 && i < parts.indexOf(part))
        : undefined;
    return {
      above: clash ? (
        <Choosing clash={clash} part={part} by={nameOf(clash.theirs.by)} words={t} choose={choose} />
      ) : reason ? (
        <Reason dir="auto">{reason}</Reason>
      ) : part.prefilled.includes(key) ? (
        <Soft>{t("fromRecords")}</Soft>
      ) : by ? (
        <Soft>{t("answeredBy", { name: by })}</Soft>
      ) : earlier !== undefined ? (
        <Soft>{t("answeredIn", { title: parts[earlier]!.questionnaire.title })}</Soft>
      ) : null,
      below: alarming.has(key) ? <Support words={view.supportText ?? ""} /> : null,
    };
  };
  const clearAll = (): void => {
    setBefore(parts);
    for (const own of parts)
      change(
        own.id,
        ...Object.keys(own.answers.values).map((key) => ({ kind: "values" as const, key, values: [] })),
        ...Object.keys(own.answers.rows).map((key) => ({ kind: "rows" as const, key, rows: [] })),
      );
    go(0);
  };
  const putBack = (): void => {
    for (const own of before ?? [])
      change(
        own.id,
        ...Object.entries(own.answers.rows).map(([key, rows]) => ({ kind: "rows" as const, key, rows })),
        ...Object.entries(own.answers.values).map(([key, values]) => ({ kind: "values" as const, key, values })),
      );
    setBefore(undefined);
  };
  const jump = (key: string): void => {
    const box = part && document.getElementById(elementId(part.id, key));
    box?.scrollIntoView({ block: "center" });
    box?.querySelector<HTMLElement>("input, textarea, button")?.focus({ preventScroll: true });
  };
  const next = (): void => {
    saveSoon();
    const now = lookThrough(step, part);
    if (now.problems.length > 0) {
      setTried(new Set([...tried, at]));
      requestAnimationFrame(() => jump(now.problems[0]!.key));
      return;
    }
    const clash = part && clashes.find((c) => c.partId === part.id && keysIn(now.placed).includes(c.key));
    if (clash) {
      requestAnimationFrame(() => jump(clash.key));
      return;
    }
    if (now.waitingKeys.length > 0) {
      setTried(new Set([...tried, at]));
      requestAnimationFrame(() => document.getElementById("still-right")?.querySelector("button")?.focus());
      return;
    }
    move(1);
  };

  const sign = async (mark: { name: string; path: string }): Promise<void> => {
    if (!part || step.kind !== "sign") return;
    setWaiting({ kind: "busy" });
    const undecided = clashes.some((c) => c.partId === part.id);
    const done = undecided
      ? { kind: "incomplete" as const }
      : (await flush())
        ? await server.sign(part.id, { place: step.place, ...mark })
        : { kind: "no-reply" as const };
    if (done.kind !== "signed") {
      setWaiting({ kind: "failed", words: done.kind === "incomplete" ? t("signFirst") : t("noReply") });
      return;
    }
    signed(part.id, step.place, done.at);
    move(1);
  };
  const send = async (): Promise<void> => {
    setWaiting({ kind: "busy" });
    if ((await flush()) && (await server.submit(comment.trim()))) return;
    setWaiting({ kind: "failed", words: t("noReply") });
  };

  /** Once everything is kept; or where nothing can be any more, since the page must not stay open on somebody else's device. */
  const giveBack = async (): Promise<void> => {
    setUnheard(false);
    if ((await flush()) || isStopped()) await server.leave?.().catch(() => setUnheard(true));
  };

  // Everything is looked through at the end only: it would be too much for each key.
  const open =
    reads || step.kind !== "review"
      ? []
      : parts.flatMap((own) => [
          ...clashes
            .filter((c) => c.partId === own.id)
            .map((clash) => ({
              part: own,
              problem: {
                linkId: linkIdOf(clash.key),
                key: clash.key,
                reason: "missing",
              } satisfies AnswerProblem as AnswerProblem,
              step: stepOfKey(steps, own, clash.key),
            })),
          ...checkAnswers(own.questionnaire, own.answers).map((problem) => ({
            part: own,
            problem,
            step: stepFor(steps, own, problem.key, own.answers),
          })),
          ...placesToSign(own.questionnaire, own.answers)
            .filter((place) => !own.signed[place])
            .map((place) => ({
              part: own,
              problem: undefined,
              step: steps.findIndex((s) => s.kind === "sign" && s.part === own.id && s.place === place),
            })),
        ]);
  const minutes = useMemo(() => minutesLeft(steps, at, late), [steps, at, late]);
  const showProblems = tried.has(at);
  const title =
    step.kind === "review"
      ? t("reviewTitle")
      : step.kind === "sign"
        ? t("signTitle", { title: part?.questionnaire.title ?? "" })
        : step.section.title;

  return (
    <UploadProvider value={server.upload}>
      <Shell lang={language} dir={directionOf(language)}>
        <Top>
          <span>{view.practiceName}</span>
          <Saved role="status" data-state={state}>
            {!ready
              ? t("oneMoment")
              : state === "failed"
                ? ""
                : state === "saved"
                  ? savedAt
                    ? t("saved", { time: clockTime(savedAt, frame) })
                    : ""
                  : state === "stopped"
                    ? ""
                    : t("saving")}
          </Saved>
        </Top>
        <Whole disabled={!ready} role="none">
          <Body as={embedded ? "div" : "main"}>
            <Where>
              <Progress>
                {reads
                  ? t("readOnly", { practice: view.practiceName })
                  : `${t("step", { at: String(at + 1), of: String(steps.length) })}${minutes > 0 ? ` · ${t("minutesLeft", { count: minutes })}` : ""}`}
                {view.onBehalfOf ? (
                  <>
                    <br />
                    {t("forWhom", { name: view.onBehalfOf })}
                  </>
                ) : null}
              </Progress>
              {server.chooseLanguage && (
                <LanguagePick label={t("language")} value={language} flush={flush} choose={server.chooseLanguage} />
              )}
            </Where>
            <Bar
              aria-hidden="true"
              style={{ "--done": `${((at + 1) / steps.length) * 100}%` } as React.CSSProperties}
            />
            <Title as={embedded ? "h2" : "h1"} ref={top} tabIndex={-1} dir="auto">
              {title}
            </Title>
            {part?.questionnaire.sheet && step.kind === "section" && server.sheet && (
              <p>
                <a href={server.sheet(part.id)}>{t("sheet")}</a>
              </p>
            )}
            {at === 0 && view.personalLine && <p dir="auto">“{view.personalLine}”</p>}
            {at === 0 && (view.leaflets ?? []).length > 0 && server.leaflet && (
              <div>
                <p>{t("leaflets")}</p>
                <ul>
                  {view.leaflets!.map((l) => (
                    <li key={l.id}>
                      <a href={server.leaflet!(l.id)} dir="auto">
                        {l.title}
                      </a>
                    </li>
                  ))}
                </ul>
              </div>
            )}
            {at === 0 && view.shared && !reads && (
              <Note>
                {t("shared", {
                  names: (view.people ?? [])
                    .filter((p, i, all) => !p.own && all.findIndex((q) => q.name === p.name) === i)
                    .map((p) => p.name)
                    .join(", "),
                })}
              </Note>
            )}
            {at === 0 && !reads && (
              <Note>
                {t("startNote")}
                {view.dueOn ? ` ${t("wantedBy", { day: dateWords(view.dueOn, frame.locale) })}` : ""}
              </Note>
            )}
            {at === 0 && before && (
              <Notice>
                {t("cleared")}{" "}
                <Button weight="quiet" onPress={putBack}>
                  {t("putBack")}
                </Button>
              </Notice>
            )}
            {reasons && step.kind !== "sign" && (
              <Notice tone="attention">{t("sentBackNote", { practice: view.practiceName })}</Notice>
            )}
            {waitingKeys.length > 0 && (
              <Notice tone={tried.has(at) ? "problem" : "attention"}>
                <StillRight id="still-right">
                  <span>{tried.has(at) ? t("sayStillRight") : t("stillRight", { count: waitingKeys.length })}</span>
                  <Button onPress={sayRight}>{t("yesStillRight")}</Button>
                </StillRight>
              </Notice>
            )}
            {server.leave && (
              <Note>
                {t("handedOver", { practice: view.practiceName })}{" "}
                <Button weight="quiet" onPress={() => void giveBack()}>
                  {t("giveBack")}
                </Button>
              </Note>
            )}
            {(state === "failed" || unheard) && <Notice tone="attention">{t("offline")}</Notice>}
            {state === "stopped" && <Notice tone="problem">{t("stopped")}</Notice>}
            {showProblems && problems.length > 0 && (
              <Notice tone="problem">
                <strong>{t("problems", { count: problems.length })}</strong>
                <ul>
                  {problems.map((p) => (
                    <li key={p.key}>
                      <Jump type="button" onClick={() => jump(p.key)}>
                        {labelOf(part, p)}
                      </Jump>
                    </li>
                  ))}
                </ul>
              </Notice>
            )}
            {step.kind === "section" && part && (
              <div {...languageOf(part)}>
                <Items
                  key={at}
                  partId={part.id}
                  placed={sectionItems(placed)}
                  around={around}
                  answers={part.answers}
                  words={t}
                  say={say}
                  onBlur={saveSoon}
                  problems={showProblems ? problems : []}
                  change={(...changes) => change(part.id, ...changes)}
                />
              </div>
            )}
            {step.kind === "sign" && part && (
              <Stack $gap="1.4rem">
                {part.questionnaire.items
                  .flatMap((i) => (i.type === "group" ? i.items : [i]))
                  .map((i) =>
                    i.type === "display" && !i.signature ? (
                      <p key={i.linkId} dir="auto">
                        {i.text}
                      </p>
                    ) : null,
                  )}
                <Answered part={part} words={t} />
                {part.signed[step.place] ? (
                  <Notice tone="settled">{t("signedAt", { time: clockTime(part.signed[step.place]!, frame) })}</Notice>
                ) : checkAnswers(part.questionnaire, part.answers).length > 0 ? (
                  <Notice tone="attention">{t("signFirst")}</Notice>
                ) : (
                  <SignStep
                    key={step.place}
                    words={t}
                    intent={
                      allItems(part.questionnaire).find((i) => step.place !== "" && i.linkId === step.place)?.text ??
                      intentSentence(language)
                    }
                    name={view.person}
                    busy={waiting.kind === "busy"}
                    failed={waiting.kind === "failed" ? waiting.words : undefined}
                    onSign={(mark) => void sign(mark)}
                  />
                )}
              </Stack>
            )}
            {step.kind === "review" && (
              <Stack $gap="1.6rem">
                {!reads && <p>{t("reviewText")}</p>}
                {open.length > 0 && (
                  <Notice tone="problem">
                    <strong>{t("problems", { count: open.length })}</strong>
                    <ul>
                      {open.map((option) => (
                        <li key={`${option.part.id} ${option.problem?.key ?? `sign ${option.step}`}`}>
                          <Jump
                            type="button"
                            onClick={() => {
                              setTried(new Set([...tried, option.step]));
                              go(option.step);
                            }}
                          >
                            {option.problem
                              ? labelOf(option.part, option.problem)
                              : `${option.part.questionnaire.title}: ${t("mustSign")}`}
                          </Jump>
                        </li>
                      ))}
                    </ul>
                  </Notice>
                )}
                {parts.map((own) => (
                  <section key={own.id} aria-label={own.questionnaire.title}>
                    <ReviewHead>
                      <h2 dir="auto">{own.questionnaire.title}</h2>
                      {steps.some((s) => s.kind === "section" && s.part === own.id) && (
                        <Button
                          weight="quiet"
                          aria-label={`${t("change")}: ${own.questionnaire.title}`}
                          onPress={() => go(steps.findIndex((s) => s.kind === "section" && s.part === own.id))}
                        >
                          {t("change")}
                        </Button>
                      )}
                    </ReviewHead>
                    <Answered part={own} words={t} nameOf={nameOf} />
                    {placesToSign(own.questionnaire, own.answers).flatMap((place) =>
                      own.signed[place]
                        ? [<Soft key={place}>{t("signedAt", { time: clockTime(own.signed[place], frame) })}</Soft>]
                        : [],
                    )}
                  </section>
                ))}
                {!reads && (
                  <TextField
                    label={t("comment")}
                    optional={t("optional")}
                    value={comment}
                    onChange={setComment}
                    long
                    maxLength={2000}
                  />
                )}
                <Cluster $gap="0.5rem 1.5rem">
                  {server.paper && <a href={server.paper}>{t("copy")}</a>}
                  {!reasons && !reads && (
                    <Button weight="quiet" onPress={clearAll}>
                      {t("startAgain")}
                    </Button>
                  )}
                </Cluster>
                {waiting.kind === "failed" && <Notice tone="problem">{waiting.words}</Notice>}
              </Stack>
            )}
          </Body>
          <Foot>
            {at > 0 ? <Press label={t("back")} press={() => move(-1)} /> : <span />}
            {reads ? null : step.kind === "review" ? (
              <Button
                weight="primary"
                isDisabled={open.length > 0}
                busy={waiting.kind === "busy"}
                onPress={() => void send()}
              >
                {waiting.kind === "failed" ? t("sendAgain") : t("send", { practice: view.practiceName })}
              </Button>
            ) : step.kind === "sign" && part && !part.signed[step.place] ? null : (
              <Press primary label={at === steps.length - 2 ? t("toReview") : t("next")} press={next} />
            )}
          </Foot>
        </Whole>
      </Shell>
    </UploadProvider>
  );
}

const languages = clientLanguages.map((value) => ({ value, label: languageNames[value] }));
const LanguagePick = memo(function LanguagePick({
  label,
  value,
  flush,
  choose,
}: {
  readonly label: string;
  readonly value: string;
  readonly flush: () => Promise<boolean>;
  readonly choose: (language: string) => Promise<void>;
}) {
  return (
    <Pick
      small
      bare
      label={label}
      value={value}
      options={languages}
      onChange={(to) => void flush().then((kept) => (kept ? choose(to) : undefined))}
    />
  );
});
/** A button that an answer does not draw anew: it does what is right when it is pressed. */
function Press({
  label,
  press,
  primary = false,
}: {
  readonly label: string;
  readonly press: () => void;
  readonly primary?: boolean;
}) {
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  return useMemo(
    () => (
      <Button {...(primary ? { weight: "primary" as const } : {})} onPress={() => latest.current()}>
        {label}
      </Button>
    ),
    [label, primary],
  );
}
/** A questionnaire without a translation stands in the language it was written in, on a page in another. */
const languageOf = ({ questionnaire: { language = "en" } }: FillPart): { lang: string; dir: "ltr" | "rtl" } => ({
  lang: language,
  dir: directionOf(language),
});

/** The practice's own words, at once and in sight, beside an answer that alarms; nothing is held up by it. */
function Support({ words }: { readonly words: string }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.scrollIntoView({ block: "center" });
  }, []);
  return (
    <div ref={box} role="status">
      <Notice tone="attention">
        <span dir="auto">{words}</span>
      </Notice>
    </div>
  );
}

/** A section's own title stands as the page's heading, so its group is not headed again. */
function sectionItems(placed: readonly Placed[]): readonly Placed[] {
  const only = placed[0];
  return placed.length === 1 && only && isSection(only.item) ? only.children : placed;
}
const stepFor = (steps: readonly Step[], part: FillPart, key: string, answers: Answers): number =>
  steps.findIndex(
    (s) =>
      s.kind === "section" &&
      s.part === part.id &&
      problemsIn(part.questionnaire, answers, s.section).some((p) => p.key === key),
  );
const stepOfKey = (steps: readonly Step[], part: FillPart, key: string): number =>
  Math.max(
    0,
    steps.findIndex(
      (s) =>
        s.kind === "section" &&
        s.part === part.id &&
        keysIn(placedIn(part.questionnaire, part.answers, s.section)).includes(key),
    ),
  );
const labelOf = (part: FillPart | undefined, problem: AnswerProblem): string =>
  part?.questionnaire ? (findText(part.questionnaire.items, problem.linkId) ?? problem.linkId) : problem.linkId;
function findText(items: FillPart["questionnaire"]["items"], linkId: string): string | undefined {
  for (const item of items) {
    if (item.linkId === linkId) return item.text;
    const inner = item.type === "display" ? undefined : findText(item.items, linkId);
    if (inner !== undefined) return inner;
  }
  return undefined;
}
function numberKey(parts: readonly FillPart[], problem: AnswerProblem): "number" | "wholeNumber" | "wrongKind" {
  const type = parts.flatMap((x) => shownQuestions(x.questionnaire, x.answers)).find((q) => q.key === problem.key)
    ?.item.type;
  if (type === "integer") return "wholeNumber";
  if (type === "decimal" || type === "quantity") return "number";
  return "wrongKind";
}

/** Two answers to one question, from two devices: nothing is lost until one is chosen. */
function Choosing({
  clash,
  part,
  by,
  words,
  choose,
}: {
  readonly clash: Clash;
  readonly part: FillPart;
  readonly by: string | undefined;
  readonly words: FillWords;
  readonly choose: (clash: Clash, which: "mine" | "theirs") => void;
}) {
  const { locale } = useTimeFrame();
  const item = allItems(part.questionnaire).find((i) => i.linkId === linkIdOf(clash.key));
  const { change } = clash.theirs;
  const say = (values: readonly AnswerValue[]): string =>
    item && isQuestion(item) && values.length > 0
      ? values.map((v) => answerText(item, v, { yes: words("yes"), no: words("no"), locale })).join(", ")
      : words("notAnswered");
  return (
    <div style={{ marginBlockEnd: "0.9rem" }}>
      <Notice tone="problem">
        <Stack $gap="0.5rem">
          <strong>{by ? words("clashBy", { name: by }) : words("clash")}</strong>
          <span dir="auto">“{say(change.kind === "values" ? change.values : [])}”</span>
          <Cluster>
            <Button onPress={() => choose(clash, "mine")}>{words("keepMine")}</Button>
            <Button onPress={() => choose(clash, "theirs")}>{words("takeTheirs")}</Button>
          </Cluster>
        </Stack>
      </Notice>
    </div>
  );
}

function Answered({
  part,
  words,
  nameOf,
}: {
  readonly part: FillPart;
  readonly words: FillWords;
  readonly nameOf?: (link: Id<"Link"> | undefined) => string | undefined;
}) {
  const { locale } = useTimeFrame();
  return (
    <List {...languageOf(part)}>
      {shownQuestions(part.questionnaire, part.answers)
        .filter((q) => !q.item.readOnly)
        .map((placed) => {
          const values = part.answers.values[placed.key] ?? [];
          const by = nameOf?.(part.kept[`values ${placed.key}`]?.by);
          return (
            <div key={placed.key}>
              <dt>{placed.item.text}</dt>
              <dd dir="auto">
                {values.length === 0 ? (
                  <Soft>{words("notAnswered")}</Soft>
                ) : (
                  values
                    .map((v) => answerText(placed.item, v, { yes: words("yes"), no: words("no"), locale }))
                    .join(", ")
                )}
              </dd>
              {by ? <Soft>{words("answeredBy", { name: by })}</Soft> : null}
            </div>
          );
        })}
    </List>
  );
}
const Shell = styled.div`
  max-width: 40rem;
  margin-inline: auto;
  min-height: 100dvh;
  display: flex;
  flex-direction: column;
  padding-inline: 1.25rem;
  font-size: 1.0625rem;
`;
const never = () => () => undefined;
const Whole = styled.fieldset`
  display: contents;
`;
const Body = styled.main`
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 1.2rem;
  padding-block: 1rem 2rem;
`;
const Top = styled.header`
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  padding-block: 0.9rem;
  border-block-end: 1px solid var(--rule);
  & > :first-child {
    font: 500 1.05rem/1.3 var(--serif);
    color: var(--plum);
  }
`;
const Saved = styled.span`
  color: var(--soft);
  font-size: 0.94rem;
  white-space: nowrap;
`;
const Progress = styled.p`
  color: var(--soft);
`;
const Bar = styled.div`
  height: 3px;
  margin-block-start: -0.6rem;
  background:
    linear-gradient(var(--plum), var(--plum)) no-repeat left / var(--done) 100%,
    var(--rule);
  &:dir(rtl) {
    background-position: right;
  }
`;
const Title = styled.h1`
  outline: none;
`;
const Note = styled.p`
  color: var(--soft);
`;
const Foot = styled.footer`
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  padding-block: 1rem;
  border-block-start: 1px solid var(--rule);
  position: sticky;
  bottom: 0;
  background: var(--paper);
`;
const Where = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 1rem;
  & > p {
    flex: 1;
    min-width: 0;
  }
  & > p + * {
    flex: none;
  }
`;
const Reason = styled.p`
  border-inline-start: 3px solid var(--clay);
  padding-inline-start: 0.75rem;
  margin-block-end: 0.6rem;
  font-weight: 600;
`;
const StillRight = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1rem;
  align-items: center;
  justify-content: space-between;
`;
const Jump = styled.button`
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0.35rem 0;
  min-height: 1.5rem;
  text-align: start;
  text-decoration: underline;
  text-underline-offset: 0.2em;
  cursor: pointer;
`;
const ReviewHead = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 1rem;
  border-block-end: 1px solid var(--rule-strong);
`;
const List = styled.dl`
  & > div {
    padding-block: 0.5rem;
    border-block-end: 1px solid var(--rule);
  }
  & dt {
    color: var(--soft);
    font-size: 0.94rem;
  }
  & dd {
    font-weight: 600;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
`;
