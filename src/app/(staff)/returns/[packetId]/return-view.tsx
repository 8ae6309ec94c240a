"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import styled from "styled-components";
import { textOf } from "@/core/questionnaire";
import { ButtonLink } from "@/ui/kit/button-link";
import { ActionForm } from "@/ui/kit/form";
import { Alarm, Fold, Strip } from "@/ui/kit/ledger";
import { Pick } from "@/ui/kit/pick";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page, Soft } from "@/ui/kit/page";
import { Shortcuts } from "@/ui/kit/shortcuts";
import { StateWords } from "@/ui/kit/state-mark";
import { Moment } from "@/ui/kit/time";
import type { AlertLine } from "@/usecases/measures";
import type { ReturnView as View } from "@/usecases/review";
import { CloseAlert } from "../../alerts-open";
import { handReturnAction } from "./actions";
import { DraftNote } from "./draft-note";
import { AskAgain, SendBack } from "./return-again";
import { ReturnedPart } from "./returned-part";

export interface ReturnViewProps {
  readonly requestId: string;
  readonly view: View;
}
/** One returned packet, read whole. */
export function ReturnView({ view, requestId }: ReturnViewProps) {
  const router = useRouter();
  const reconcile = `/returns/${view.packetId}/reconcile`;
  const mainAction = () => {
    if (view.underWay) return <ButtonLink href={`/packets/${view.packetId}`}>Open packet</ButtonLink>;
    if (view.state === "returned")
      return (
        <ButtonLink href={reconcile} weight="primary">
          Reconcile
        </ButtonLink>
      );
    return <ButtonLink href={`/people/${view.clientId}`}>Open chart</ButtonLink>;
  };
  return (
    <Page title={<bdi>{view.clientName}</bdi>} margin={<About view={view} />} actions={mainAction()}>
      {view.underWay ? (
        <Notice tone="attention">
          <strong>They are still writing.</strong> What stands here may change until they send it. That you looked is in
          the journal.
        </Notice>
      ) : (
        <Shortcuts
          list={[
            { key: "r", does: "reconcile", run: () => router.push(reconcile) },
            { key: "c", does: "open the chart", run: () => router.push(`/people/${view.clientId}`) },
            { key: "d", does: "draft a note", run: focusDraft },
            ...(view.beside.next
              ? [{ key: "n", does: "next to read", run: () => router.push(`/returns/${view.beside.next}`) }]
              : []),
            ...(view.beside.before
              ? [{ key: "p", does: "one before", run: () => router.push(`/returns/${view.beside.before}`) }]
              : []),
          ]}
        />
      )}
      <First view={view} />
      {view.parts.map((part, index) => (
        <ReturnedPart
          key={part.partId}
          packetId={view.packetId}
          part={part}
          underWay={view.underWay}
          requestId={requestId}
          number={1_000_000 * (index + 1)}
        />
      ))}
      {!view.underWay && (
        <MarginRow margin="Ask once more">
          <Folds>
            {view.state === "returned" && <SendBack view={view} requestId={requestId} />}
            <AskAgain view={view} requestId={requestId} />
            {view.colleagues.length > 0 && <HandOver view={view} />}
          </Folds>
        </MarginRow>
      )}
      {!view.underWay && <DraftNote view={view} requestId={requestId} />}
      <p style={{ paddingBlockStart: "0.6rem" }}>
        <Link href={`/packets/${view.packetId}`}>History</Link>{" "}
        {view.beside.before && (
          <Link href={`/returns/${view.beside.before}`} style={{ marginInlineStart: "1.5rem" }}>
            One before
          </Link>
        )}{" "}
        {view.beside.next && (
          <Link href={`/returns/${view.beside.next}`} style={{ marginInlineStart: "1.5rem" }}>
            Next to read
          </Link>
        )}
      </p>
    </Page>
  );
}
/** A colleague reads and charts it from now on. */
function HandOver({ view }: { readonly view: View }) {
  const [staffId, setStaffId] = useState<string>(view.colleagues[0]?.id ?? "");
  return (
    <Fold>
      <summary>Hand to a colleague</summary>
      <ActionForm
        action={handReturnAction}
        submit="Hand it over"
        weight="plain"
        hidden={{ packetId: view.packetId, staffId }}
      >
        <Pick
          label={`Now with ${view.staff.name}`}
          value={staffId}
          onChange={setStaffId}
          options={view.colleagues.map((one) => ({ value: one.id, label: one.name }))}
        />
      </ActionForm>
    </Fold>
  );
}
const focusDraft = (): void => {
  document.getElementById("draft")?.scrollIntoView();
  document.querySelector<HTMLElement>("#draft input")?.focus();
};

function About({ view }: { readonly view: View }) {
  return (
    <>
      <StateWords mark={view.state} words={view.stateWords} />{" "}
      {view.underWay ? (
        "not returned yet"
      ) : (
        <>
          <Moment at={view.returnedAt} /> by <bdi>{view.filledBy}</bdi>
        </>
      )}
      {view.visit && (
        <>
          <br />
          for <Moment at={view.visit.startsAt} />, {view.visit.visitType} <Soft>with {view.visit.practitioner}</Soft>
        </>
      )}
    </>
  );
}
/** What alarms, and what they added, before everything else. */
function First({ view }: { readonly view: View }) {
  const alerts = view.parts.flatMap((part) => part.alerts);
  if (alerts.length === 0 && !view.comment && view.raised.length === 0) return null;
  return (
    <Strip as="div">
      {alerts.map((alert) => (
        <p key={alert.key} role="alert">
          <Alarm>{alert.message}.</Alarm>{" "}
          {alert.answer ? <>They answered “{textOf(alert.answer)}” to: </> : "Left open: "}
          {alert.question}
        </p>
      ))}
      {view.raised.map((alert) => (
        <DealtWith key={alert.id} alert={alert} />
      ))}
      {view.comment && (
        <p>
          They added: <Comment dir="auto">{view.comment}</Comment>
        </p>
      )}
    </Strip>
  );
}
/** What was done about what alarms, or the place to write it. */
function DealtWith({ alert }: { readonly alert: AlertLine }) {
  if (alert.done)
    return (
      <p>
        Alert closed <Moment at={alert.done.at} /> by <bdi>{alert.done.by}</bdi>:{" "}
        <Comment dir="auto">{alert.done.words}</Comment>
      </p>
    );
  return (
    <Fold>
      <summary>
        The alert stays open until somebody writes what was done
        {alert.escalatedAt !== null && (
          <>
            ; owners were told <Moment at={alert.escalatedAt} />
          </>
        )}
      </summary>
      <CloseAlert alertId={alert.id} />
    </Fold>
  );
}
const Comment = styled.span`
  color: var(--ink);
  white-space: pre-wrap;
`;
const Folds = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 2rem;
  & > [open] {
    flex-basis: 100%;
  }
`;
