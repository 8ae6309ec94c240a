"use client";
import { useEffect, useRef, useState } from "react";
import styled from "styled-components";
import { inEights } from "@/core/shared";
import { ActionForm } from "@/ui/kit/form";
import { Answers, Fold, PartHead } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, Fields, MarginRow, Page, Soft, Stack } from "@/ui/kit/page";
import { Key, Shortcuts } from "@/ui/kit/shortcuts";
import { SignatureMark } from "@/ui/kit/signature-mark";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import type { ForYouToSign, ToSign } from "@/usecases/signing";
import { releaseMarkAction, dropMarkAction, signAction } from "./actions";
import { KeepMark } from "./keep-mark";

export interface SignQueueProps {
  readonly view: ForYouToSign;
  readonly name: string;
  /** The part somebody came to sign, which is shown first. */
  readonly first: string | undefined;
}
/** What waits for one's own signature, to be read and signed one after the other from the keyboard. */
export function SignQueue({ view, name, first }: SignQueueProps) {
  useLiveReload();
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      view.waiting.findIndex((one) => one.partId === first),
    ),
  );
  const index = Math.min(at, Math.max(0, view.waiting.length - 1));
  const one = view.waiting[index];
  const go = (by: number): void => setAt(Math.max(0, Math.min(view.waiting.length - 1, index + by)));
  const form = useRef<HTMLDivElement>(null);
  const ready = view.mark !== undefined && view.releasedUntil !== undefined;
  return (
    <Page title="For you to sign" margin={`${view.waiting.length} waiting`}>
      <Shortcuts
        list={[
          { key: "n", does: "next", run: () => go(1) },
          { key: "p", does: "one before", run: () => go(-1) },
          { key: "s", does: "sign this one", run: () => form.current?.querySelector("form")?.requestSubmit() },
        ]}
      />
      <MarginRow margin="Your signature">
        <Own view={view} name={name} />
      </MarginRow>
      {!one && <MarginRow margin="Nothing">Nothing waits for your signature.</MarginRow>}
      {one && (
        <OneToSign key={`${one.partId} ${one.place} ${one.digest}`} one={one}>
          <Foot>
            <div ref={form}>
              {ready ? (
                <ActionForm
                  action={signAction}
                  submit={`Sign as ${view.mark?.name ?? name}`}
                  hidden={{ packetId: one.packetId, partId: one.partId, place: one.place, digest: one.digest }}
                />
              ) : (
                <Soft>
                  {view.mark ? "Release your signature above, then sign." : "Keep a signature of yours above first."}
                </Soft>
              )}
            </div>
            <Cluster>
              <Soft>
                {index + 1} of {view.waiting.length}
              </Soft>
              <Soft>
                <Key>s</Key> sign <Key>n</Key> next <Key>p</Key> before
              </Soft>
            </Cluster>
          </Foot>
        </OneToSign>
      )}
    </Page>
  );
}
/** The stored signature: kept, released for a while, taken away. */
function Own({ view, name }: { readonly view: ForYouToSign; readonly name: string }) {
  const { mark, releasedUntil } = view;
  if (!mark) return <KeepMark name={name} />;
  return (
    <Stack $gap="0.5rem">
      <Cluster>
        <SignatureMark mark={mark} />
        {releasedUntil && (
          <Soft>
            Released until <Moment at={releasedUntil} as="clock" />
          </Soft>
        )}
      </Cluster>
      {!releasedUntil && (
        <ActionForm action={releaseMarkAction} submit="Release it" weight="plain">
          <Fields $least="12rem">
            <TextField name="password" type="password" label="Your password" autoComplete="current-password" />
            {view.hasCode && <TextField name="code" inputMode="numeric" label="Or a code from your app" />}
          </Fields>
        </ActionForm>
      )}
      <Cluster>
        <Fold>
          <summary>Another signature</summary>
          <KeepMark name={mark.name} />
        </Fold>
        <Fold>
          <summary>Take it away</summary>
          <ActionForm action={dropMarkAction} submit="Take it away" weight="danger" />
        </Fold>
      </Cluster>
    </Stack>
  );
}
function OneToSign({ one, children }: { readonly one: ToSign; readonly children: React.ReactNode }) {
  const head = useRef<HTMLHeadingElement>(null);
  useEffect(() => head.current?.focus({ preventScroll: true }), []);
  return (
    <section aria-label={`${one.title}, ${one.clientName}`}>
      <PartHead>
        <h2 ref={head} tabIndex={-1}>
          <bdi>{one.title}</bdi>, <bdi>{one.clientName}</bdi>
        </h2>
        <Link href={`/returns/${one.packetId}`}>What came back</Link>
        <Link href={`/returns/${one.packetId}/signing`}>Signatures</Link>
        {one.sheet && <a href={`/api/parts/${one.partId}/sheet`}>Filled sheet</a>}
      </PartHead>
      <MarginRow
        margin={
          <>
            Returned <Moment at={one.returnedAt} />
          </>
        }
      >
        <Stack $gap="0.4rem">
          {one.texts.map((text, i) => (
            <p key={i} dir="auto" style={{ whiteSpace: "pre-wrap" }}>
              {text}
            </p>
          ))}
        </Stack>
      </MarginRow>
      <MarginRow margin="Answers">
        <Answers>
          {one.lines.map((line) => (
            <div key={line.key}>
              <dt>{line.question}</dt>
              <dd dir="auto">{line.answer === "" ? <Soft>Not answered</Soft> : line.answer}</dd>
            </div>
          ))}
        </Answers>
      </MarginRow>
      {one.before.length > 0 && (
        <MarginRow margin="Signed before you">
          <ul>
            {one.before.map((before) => (
              <li key={before.at}>
                <bdi>{before.name}</bdi>{" "}
                <Soft>
                  <Moment at={before.at} />
                </Soft>
              </li>
            ))}
          </ul>
        </MarginRow>
      )}
      <MarginRow margin="You sign">
        <Stack $gap="0.5rem">
          <p>
            <strong>
              <bdi>{one.intent}</bdi>
            </strong>
          </p>
          <Soft as="p">
            Check number of what you sign: <bdi>{inEights(one.digest)}</bdi>
          </Soft>
          {children}
        </Stack>
      </MarginRow>
    </section>
  );
}
const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 0.5rem 1.5rem;
`;
