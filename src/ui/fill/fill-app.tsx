"use client";
import { useCallback, useDeferredValue, useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { I18nProvider } from "react-aria-components/I18nProvider";
import { directionOf, type Id } from "@/core/shared";
import { fillTranslator, problemTranslator, type PageMessages } from "@/i18n/page-words";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { useTimeFrame } from "@/ui/kit/time";
import { useEndsSoon } from "@/ui/kit/use-ends-soon";
import { clockTime } from "@/i18n/moments";
import type { FillWords } from "@/i18n/translator";
import type { FillServer, PacketView } from "./fill-server";
import type { Edit } from "./kept-edits";
import { FirstWords } from "./first-words";
import { LanguagePick } from "./language-pick";
import { Layout, Note } from "./layout";
import { PageContext, type Page } from "./page";
import { lookThrough, messageKey, openPoints } from "./page-look";
import { Press } from "./press";
import { ReviewStep } from "./review-step";
import { SaveTrouble, SaveWords } from "./save-words";
import { jumpTo } from "./jump-to";
import { jumpToStillRight, SectionStep } from "./section-step";
import { preloadFor } from "./seldom-asked";
import { SignStep } from "./sign-step";
import { keysIn, minutesLeft } from "./steps";
import { UploadProvider } from "./upload";
import { useAnswers, useAnswerSync } from "./use-answer-sync";
import { afterPaint } from "./use-step-number";
import { useSteps } from "./use-steps";

/** The page's own words, in one language. */
export interface PageWords {
  readonly language: string;
  readonly messages: PageMessages;
}
export interface FillAppProps {
  readonly words: PageWords;
  readonly server: FillServer;
  readonly view: PacketView;
  /** As the address had it; anything else than a step's number leads to the first. */
  readonly firstStep: string | undefined;
  /** It was returned or closed by somebody else meanwhile. */
  readonly onOver?: () => void;
  /** Inside a page that has its own heading and main part. */
  readonly embedded?: boolean;
}

/** The client's page: a packet is filled in, signed, looked through and returned. */
export function FillApp({ words, view, server, firstStep, onOver, embedded = false }: FillAppProps) {
  const page = usePageOf(words, view, server, firstStep, onOver, embedded);
  useEffect(() => preloadFor(view.parts.map((one) => one.questionnaire)), [view.parts]);
  const { locale } = useTimeFrame();
  const { words: t, sync, parts, clashes, steps, at, step, part, move } = page;
  // Until the page's script runs nothing typed could be kept, so nothing can be typed: on a slow line that takes
  // seconds.
  const ready = useSyncExternalStore(never, isTrue, isFalse);
  const reads = view.role === "reads";
  // Once for each answer, and a moment after it: a slow phone shows the answer first, then what follows from it.
  const late = useDeferredValue(parts);
  const latePart = late.find((p) => p.id === part?.id);
  const look = useMemo(() => lookThrough(step, latePart, view), [step, latePart, view]);
  const minutes = useMemo(() => minutesLeft(steps, at, late), [steps, at, late]);
  // Everything is looked through at the end only: it would be too much for each key.
  const open = reads || step.kind !== "review" ? [] : openPoints(steps, parts, clashes, view);
  const { before, startAgain, putBack } = useStartAgain(page);
  const { comment, setComment, submit, busy, failed } = useSubmit(page);
  const { giveBack, unheard } = useGiveBack(page);

  const next = (): void => {
    afterPaint(() => void sync.saver.flush());
    const now = lookThrough(step, part, view);
    const clash = clashes.find((c) => c.partId === part?.id && keysIn(now.placed).includes(c.key));
    const wrong = now.problems[0]?.key ?? clash?.key;
    if (wrong !== undefined || now.waitingKeys.length > 0) {
      if (now.problems.length > 0 || !clash) page.setTried(at);
      requestAnimationFrame(() => (wrong === undefined ? jumpToStillRight() : jumpTo(part!, wrong)));
      return;
    }
    move(1);
  };
  const title = (): string => {
    if (step.kind === "review") return t("reviewTitle");
    return step.kind === "sign" ? t("signTitle", { title: part?.questionnaire.title ?? "" }) : step.section.title;
  };
  const progress = [t("step", { at: String(at + 1), of: String(steps.length) })];
  if (minutes > 0) progress.push(t("minutesLeft", { count: minutes }));
  const onwards = () => {
    if (reads) return null;
    if (step.kind === "review")
      return (
        <Button weight="primary" isDisabled={open.length > 0} busy={busy} onPress={() => void submit()}>
          {failed === undefined ? t("send", { practice: view.practiceName }) : t("sendAgain")}
        </Button>
      );
    if (step.kind === "sign" && part && !part.signed[step.place]) return null;
    return <Press primary label={at === steps.length - 2 ? t("toReview") : t("next")} press={next} />;
  };
  return (
    <I18nProvider locale={locale}>
      <PageContext value={page}>
        <UploadProvider value={server.upload}>
          <Layout
            lang={page.language}
            dir={directionOf(page.language)}
            practice={view.practiceName}
            logo={view.logo}
            saved={<SaveWords sync={sync} words={t} ready={ready} />}
            ready={ready}
            embedded={embedded}
            progress={
              <>
                {reads ? t("readOnly", { practice: view.practiceName }) : progress.join(" · ")}
                {view.onBehalfOf ? <br /> : null}
                {view.onBehalfOf ? t("forWhom", { name: view.onBehalfOf }) : null}
              </>
            }
            languages={
              server.chooseLanguage && (
                <LanguagePick
                  label={t("language")}
                  value={page.language}
                  flush={sync.saver.flush}
                  choose={server.chooseLanguage}
                />
              )
            }
            done={(at + 1) / steps.length}
            title={title()}
            top={page.top}
            foot={
              <>
                {at > 0 ? <Press label={t("back")} press={() => move(-1)} /> : <span />}
                {onwards()}
              </>
            }
          >
            {part?.questionnaire.sheet && (step.kind === "section" || step.kind === "sign") && server.sheet && (
              <p>
                <a href={server.sheet(part.id)}>{t("sheet")}</a>
              </p>
            )}
            {at === 0 && <FirstWords putBack={before && putBack} />}
            {view.sentBack && step.kind !== "sign" && (
              <Notice tone="attention">{t("sentBackNote", { practice: view.practiceName })}</Notice>
            )}
            <EndsSoon server={server} view={view} words={t} />
            {server.leave && (
              <Note>
                {t("handedOver", { practice: view.practiceName })}{" "}
                <Button weight="quiet" onPress={() => void giveBack()}>
                  {t("giveBack")}
                </Button>
              </Note>
            )}
            {view.anew && <Note>{t("anew")}</Note>}
            <SaveTrouble sync={sync} words={t} unheard={unheard} />
            {step.kind === "section" && part && <SectionStep part={part} look={look} />}
            {step.kind === "sign" && part && <SignStep key={at} part={part} place={step.place} />}
            {step.kind === "review" && <ReviewStep {...{ open, comment, setComment, startAgain, failed }} />}
          </Layout>
        </UploadProvider>
      </PageContext>
    </I18nProvider>
  );
}
/** Nobody is shut out in the middle of an answer without a word, and who needs longer stays longer. */
function EndsSoon({
  server,
  view,
  words,
}: {
  readonly server: FillServer;
  readonly view: PacketView;
  readonly words: FillWords;
}) {
  const frame = useTimeFrame();
  const [until, setUntil] = useState(view.passUntil);
  const soon = useEndsSoon(until, frame.now);
  if (!soon || !until || !server.stay) return null;
  return (
    <Notice tone="attention">
      {words("endsSoon", { time: clockTime(until, frame) })}{" "}
      <Button onPress={() => void server.stay?.().then((later) => later && setUntil(later))}>{words("stay")}</Button>
    </Notice>
  );
}
const never = () => () => undefined;
const isTrue = (): boolean => true;
const isFalse = (): boolean => false;

function usePageOf(
  { language, messages }: PageWords,
  view: PacketView,
  server: FillServer,
  firstStep: string | undefined,
  onOver: (() => void) | undefined,
  embedded: boolean,
): Page {
  const words = useMemo(() => fillTranslator(language, messages), [language, messages]);
  const sayProblem = useMemo(() => problemTranslator(language, messages), [language, messages]);
  const sync = useAnswerSync(server, view, onOver);
  const parts = useAnswers(sync, "parts");
  const clashes = useAnswers(sync, "clashes");
  const steps = useSteps(view, parts, firstStep, embedded);
  const [tried, setTried] = useState<ReadonlySet<number>>(new Set());
  const nameOf = useCallback(
    (link: Id<"Link"> | undefined) => view.people?.find((p) => p.link === link && !p.own)?.name,
    [view.people],
  );
  return {
    ...steps,
    language,
    words,
    say: (problem) => sayProblem(messageKey(parts, problem), problem.limit ?? ""),
    view,
    server,
    sync,
    parts,
    clashes,
    nameOf,
    tried,
    setTried: (step) => setTried((now) => new Set([...now, step])),
  };
}

/**
 * Everything cleared, and back again: what was there lies in this browser, sealed, until it is put back or the packet
 * returned.
 */
function useStartAgain({ sync, parts, go, server: { keepCleared } }: Page) {
  const [before, setBefore] = useState<readonly Edit[]>();
  useEffect(() => {
    void keepCleared?.read().then((edits) => {
      if (edits.length > 0) setBefore((now) => now ?? edits);
    });
  }, [keepCleared]);
  const startAgain = (): void => {
    const edits = parts.flatMap(({ id, answers }): Edit[] => [
      ...Object.entries(answers.rows).map(([key, rows]): Edit => ({
        partId: id,
        change: { kind: "rows", key, rows },
        base: 0,
      })),
      ...Object.entries(answers.values).map(([key, values]): Edit => ({
        partId: id,
        change: { kind: "values", key, values },
        base: 0,
      })),
    ]);
    setBefore(edits);
    keepCleared?.write(edits);
    for (const { id, answers } of parts)
      sync.change(
        id,
        ...Object.keys(answers.values).map((key) => ({ kind: "values" as const, key, values: [] })),
        ...Object.keys(answers.rows).map((key) => ({ kind: "rows" as const, key, rows: [] })),
      );
    go(0);
  };
  const putBack = (): void => {
    for (const { id } of parts) {
      const own = (before ?? []).filter((edit) => edit.partId === id).map((edit) => edit.change);
      if (own.length > 0) sync.change(id, ...own);
    }
    setBefore(undefined);
    keepCleared?.write([]);
  };
  return { before, startAgain, putBack };
}

/** Returning the packet, with what they add to it. */
function useSubmit({ sync, server, words, at }: Page) {
  const [comment, setComment] = useState("");
  const [busy, setBusy] = useState(false);
  const [failed, setFailed] = useState<string>();
  // Said until they turn to another page.
  const [seenAt, setSeenAt] = useState(at);
  if (seenAt !== at) {
    setSeenAt(at);
    setFailed(undefined);
  }
  const submit = async (): Promise<void> => {
    setBusy(true);
    if ((await sync.saver.flush()) && (await server.submit(comment.trim()))) {
      server.keepCleared?.write([]);
      return;
    }
    setBusy(false);
    setFailed(words("noReply"));
  };
  return { comment, setComment, submit, busy, failed };
}

/**
 * Giving a device back: once everything is kept; or where nothing can be any more, since the page must not stay open on
 * somebody else's device.
 */
function useGiveBack({ sync, server }: Page) {
  const [unheard, setUnheard] = useState(false);
  const giveBack = async (): Promise<void> => {
    setUnheard(false);
    if ((await sync.saver.flush()) || sync.saver.isStopped()) await server.leave?.().catch(() => setUnheard(true));
  };
  return { giveBack, unheard };
}
