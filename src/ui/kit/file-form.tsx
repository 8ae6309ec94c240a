"use client";
import { startTransition, useActionState, useState, type ReactNode } from "react";
import { FileTrigger } from "react-aria-components/FileTrigger";
import styled from "styled-components";
import { Button } from "./button";
import { Notice } from "./notice";

/** Chooses one file and sends it at once. What the action answers is shown by `children`. */
export function FileForm<S>({
  action,
  initial,
  label,
  accept,
  most = 20 * 1024 * 1024,
  children,
}: {
  readonly action: (previous: S, sent: FormData) => Promise<S>;
  readonly initial: Awaited<S>;
  readonly label: string;
  readonly accept: readonly string[];
  /** In bytes. A larger file is not sent: it would take minutes, and the server would hang up without a reason. */
  readonly most?: number;
  readonly children: (state: Awaited<S>) => ReactNode;
}) {
  const [state, dispatch, pending] = useActionState(action, initial);
  const [name, setName] = useState("");
  const [tooLarge, setTooLarge] = useState<string>();
  return (
    <Body>
      <div>
        <FileTrigger
          acceptedFileTypes={accept}
          onSelect={(files) => {
            const file = files?.[0];
            if (!file) return;
            setName(file.name);
            setTooLarge(file.size > most ? file.name : undefined);
            if (file.size > most) return;
            const data = new FormData();
            data.set("file", file);
            startTransition(() => {
              dispatch(data);
            });
          }}
        >
          <Button busy={pending}>{label}</Button>
        </FileTrigger>
      </div>
      {tooLarge !== undefined && (
        <Notice tone="problem">
          <bdi>{tooLarge}</bdi> is larger than {Math.round(most / 1024 / 1024)} MB, so it was not sent. Make its
          pictures smaller, or split it.
        </Notice>
      )}
      {tooLarge === undefined && (pending ? <p role="status">Reading {name}…</p> : children(state))}
    </Body>
  );
}
const Body = styled.div`
  display: flex;
  flex-direction: column;
  gap: 1rem;
`;
