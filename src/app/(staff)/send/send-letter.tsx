"use client";
import { useState, useTransition } from "react";
import styled from "styled-components";
import { directionOf } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { Stack } from "@/ui/kit/page";
import { TextCount } from "../text-count";
import { previewAction, testAction, type Preview, type TestState } from "./actions";

export interface SeeLetterProps {
  readonly input: Readonly<Record<string, string>>;
  readonly language: string;
}
/** The letter with this person's name in it, asked for when somebody wants to see it. */
export function SeeLetter({ input, language }: SeeLetterProps) {
  const [seen, setSeen] = useState<{ readonly of: string; readonly letter: Preview | string }>();
  const [busy, start] = useTransition();
  const of = JSON.stringify(input);
  const letter = seen?.of === of ? seen.letter : undefined;
  if (letter === undefined)
    return (
      <div>
        <Button
          weight="quiet"
          busy={busy}
          onPress={() => start(async () => setSeen({ of, letter: await previewAction(input) }))}
        >
          Preview letter
        </Button>
      </div>
    );
  if (typeof letter === "string") return <Notice tone="attention">{letter}</Notice>;
  return (
    <Stack $gap="0.5rem">
      <Letter lang={language} dir={directionOf(language)}>
        {letter.subject ? (
          <strong>
            {letter.subject}
            {"\n\n"}
          </strong>
        ) : null}
        {letter.body}
      </Letter>
      {letter.channel === "text" && <TextCount text={letter.body} />}
    </Stack>
  );
}

export interface TestFormProps {
  readonly disabled: boolean;
  readonly hidden: Readonly<Record<string, string>>;
  readonly children: React.ReactNode;
}
/** The same letter to oneself. */
export function TestForm({ disabled, hidden, children }: TestFormProps) {
  const [sent, setSent] = useState<string>();
  return (
    <>
      <ActionForm
        action={async (before, data) => {
          const answer: TestState = await testAction(before, data);
          setSent(answer.to);
          return answer;
        }}
        submit="Send a test to myself"
        weight="quiet"
        disabled={disabled}
        hidden={hidden}
      >
        {children}
      </ActionForm>
      {sent && (
        <Notice tone="settled">
          A test is on its way to {sent}. <Link href="/post-room">Post room</Link>
        </Notice>
      )}
    </>
  );
}
const Letter = styled.div`
  white-space: pre-wrap;
  max-width: 36rem;
  padding: 1rem 1.25rem;
  background: var(--leaf);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
  overflow-wrap: anywhere;
`;
