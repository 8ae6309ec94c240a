"use client";
import { useEffect, useRef, useState } from "react";
import { FileTrigger } from "react-aria-components/FileTrigger";
import styled from "styled-components";
import { fileTypes, mostBytes, type FileProblem } from "@/core/files";
import type { AnswerValue } from "@/core/questionnaire";
import type { FillWords } from "@/i18n/translator";
import { Button } from "@/ui/kit/button";
import { Cluster, Soft, Stack } from "@/ui/kit/page";
import type { QuestionFieldProps } from "./question-field";
import { useUpload } from "./upload";

const whys = {
  empty: "fileBroken",
  "too-large": "fileTooLarge",
  "wrong-type": "fileWrongKind",
  unsafe: "fileUnsafe",
  "broken-picture": "fileBroken",
  "too-many": "fileTooMany",
  "pdf-broken": "fileBroken",
  "pdf-no-table": "fileBroken",
  "pdf-encrypted": "fileLocked",
  "pdf-script": "fileScript",
  "pdf-too-many-pages": "fileTooLarge",
  "pdf-unusual": "fileBroken",
  "too-costly": "fileBroken",
  busy: "fileAgain",
} as const satisfies Record<FileProblem, Parameters<FillWords>[0]>;

/** Photos and files as an answer: each is sent when it is chosen, and can be stopped on its way. */
export function FileQuestion({ question, values, onChange, problem, words, partId, answerKey }: QuestionFieldProps) {
  const upload = useUpload();
  const [sending, setSending] = useState<{
    readonly name: string;
    readonly percent: number;
    readonly stop: AbortController;
  }>();
  const [failed, setFailed] = useState<string>();
  const files = values.flatMap((v) => (v.type === "attachment" ? [v.value] : []));
  const now = useRef(values);
  useEffect(() => {
    now.current = values;
  });
  const say = (key: (typeof whys)[FileProblem], name: string): string => words(key, { name: `\u2068${name}\u2069` });
  const id = `file-${partId}-${answerKey}`.replace(/[^\w-]/g, "_");

  const send = async (chosen: readonly File[]): Promise<void> => {
    setFailed(undefined);
    for (const file of chosen) {
      if (file.size > mostBytes) {
        setFailed(say("fileTooLarge", file.name));
        continue;
      }
      const stop = new AbortController();
      setSending({ name: file.name, percent: 0, stop });
      const done = await upload(
        partId,
        answerKey,
        file,
        (percent) => setSending({ name: file.name, percent, stop }),
        stop.signal,
      );
      setSending(undefined);
      if (done.kind === "kept") {
        const next: readonly AnswerValue[] = [
          ...(question.repeats ? now.current : []),
          { type: "attachment", value: done.value },
        ];
        now.current = next;
        onChange(next);
      } else if (done.kind === "refused") setFailed(say(whys[done.why], file.name));
      else if (done.kind === "no-reply") setFailed(say("fileAgain", file.name));
      if (done.kind === "stopped") break;
    }
  };
  return (
    <Stack $gap="0.6rem" role="group" aria-labelledby={`${id}-label`} aria-describedby={`${id}-help`}>
      <Label id={`${id}-label`}>
        {question.text}
        {question.required ? null : <Soft> {words("optional")}</Soft>}
      </Label>
      <Soft id={`${id}-help`}>
        {question.help ? `${question.help} ` : ""}
        {words("fileHelp")}
      </Soft>
      {files.length > 0 && (
        <Kept>
          {files.map((field) => (
            <li key={field.id}>
              <bdi>{field.title}</bdi>
              <Button
                weight="quiet"
                onPress={() => onChange(values.filter((v) => v.type !== "attachment" || v.value.id !== field.id))}
              >
                {words("fileRemove", { name: `\u2068${field.title}\u2069` })}
              </Button>
            </li>
          ))}
        </Kept>
      )}
      {sending && (
        <Cluster>
          <progress
            max={100}
            value={sending.percent}
            aria-label={words("fileSending", { name: sending.name, percent: String(sending.percent) })}
          />
          <span role="status">
            {words("fileSending", { name: `\u2068${sending.name}\u2069`, percent: String(sending.percent) })}
          </span>
          <Button weight="quiet" onPress={() => sending.stop.abort()}>
            {words("fileStop")}
          </Button>
        </Cluster>
      )}
      {(failed ?? problem) && <Problem role="alert">{failed ?? problem}</Problem>}
      {!sending && (
        <div>
          <FileTrigger
            acceptedFileTypes={fileTypes}
            allowsMultiple={question.repeats}
            onSelect={(list) => void send([...(list ?? [])])}
          >
            <Button>{words("addFile")}</Button>
          </FileTrigger>
        </div>
      )}
    </Stack>
  );
}
const Label = styled.div`
  font-weight: 600;
`;
const Kept = styled.ul`
  display: grid;
  gap: 0.25rem;
  & > li {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem 1rem;
    align-items: baseline;
    justify-content: space-between;
    border-block-end: 1px solid var(--rule);
    overflow-wrap: anywhere;
  }
`;
const Problem = styled.p`
  color: var(--madder);
  font-weight: 600;
`;
