"use client";
import { startTransition, useActionState, useState, type ReactNode } from "react";
import { FileTrigger } from "react-aria-components/FileTrigger";
import styled from "styled-components";
import { Button } from "./button";

/** Chooses one file and sends it at once. What the action answers is shown by `children`. */
export function FileForm<S>({
  action,
  initial,
  label,
  accept,
  children,
}: {
  readonly action: (previous: S, sent: FormData) => Promise<S>;
  readonly initial: Awaited<S>;
  readonly label: string;
  readonly accept: readonly string[];
  readonly children: (state: Awaited<S>) => ReactNode;
}) {
  const [state, dispatch, pending] = useActionState(action, initial);
  const [name, setName] = useState("");
  return (
    <Body>
      <div>
        <FileTrigger
          acceptedFileTypes={accept}
          onSelect={(files) => {
            const file = files?.[0];
            if (!file) return;
            setName(file.name);
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
      {pending ? <p role="status">Reading {name}…</p> : children(state)}
    </Body>
  );
}
const Body = styled.div`
  display: flex;
  flex-direction: column;
  gap: 1rem;
`;
