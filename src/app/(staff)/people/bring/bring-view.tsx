"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { FileTrigger } from "react-aria-components/FileTrigger";
import styled from "styled-components";
import { clientColumns, clientColumnWords, type ClientColumn } from "@/core/chart";
import type { Id, Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Link } from "@/ui/kit/link";
import { FileForm } from "@/ui/kit/file-form";
import type { FormState } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Progress } from "@/ui/kit/progress";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import { isMonthFirst, textOfFile } from "../table-file";
import { beginImportAction, checkRowsAction, bringChartAction } from "./actions";
import type { FileAnswer, FileQuestion } from "./clients-file.worker";

export interface BringViewProps {
  readonly requestId: string;
  readonly importId: string;
  readonly earlier: readonly { readonly id: Id<"Import">; readonly createdAt: Instant }[];
}
type Read = Extract<FileAnswer, { kind: "read" }>;
const mostBytes = 20 * 1024 * 1024;
const atOnce = 200;
const columnOptions = [
  { value: "none", label: "Leave out" },
  ...clientColumns.map((column) => ({ value: column as string, label: clientColumnWords[column] })),
];
/** A file of clients: what its columns hold, then a look at every row before anybody is added. */
export function BringView({ importId, earlier, requestId }: BringViewProps) {
  const { locale } = useTimeFrame();
  const router = useRouter();
  const worker = useRef<Worker>(undefined);
  const [read, setRead] = useState<Read>();
  const [columns, setColumns] = useState<readonly (ClientColumn | undefined)[]>([]);
  const [checked, setChecked] = useState<{ readonly done: number; readonly all: number }>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => () => worker.current?.terminate(), []);

  const ask = async (question: FileQuestion): Promise<FileAnswer> =>
    new Promise((resolve, reject) => {
      const own = (worker.current ??= new Worker(new URL("./clients-file.worker.ts", import.meta.url), {
        type: "module",
      }));
      own.onmessage = ({ data: answer }: MessageEvent<FileAnswer>) => resolve(answer);
      own.onerror = () => reject(new Error("The file cannot be read."));
      own.postMessage(question);
    });
  const take = async (file: File): Promise<void> => {
    setProblem(undefined);
    if (file.size > mostBytes) {
      setProblem("This file is larger than 20 MB. Split it.");
      return;
    }
    const answer = await ask({ kind: "read", text: textOfFile(await file.arrayBuffer()) });
    if (answer.kind !== "read") return;
    if (answer.count === 0)
      setProblem("There is no line under the headings in this file. Save it as CSV, with headings.");
    else {
      setRead(answer);
      setColumns(answer.guess);
    }
  };
  const check = async (): Promise<void> => {
    const answer = await ask({ kind: "rows", columns, monthFirst: isMonthFirst(locale) });
    if (answer.kind !== "rows") return;
    const { rows } = answer;
    setChecked({ done: 0, all: rows.length });
    let wrong = await beginImportAction(importId);
    for (let at = 0; at < rows.length && wrong === undefined; at += atOnce) {
      wrong = await checkRowsAction(importId, rows.slice(at, at + atOnce));
      setChecked({ done: Math.min(at + atOnce, rows.length), all: rows.length });
    }
    if (wrong === undefined) router.push(`/people/bring/${importId}`);
    else {
      setProblem(wrong);
      setChecked(undefined);
    }
  };
  const fail = (): void => {
    setProblem("That did not go through. Nobody was added. Try again.");
    setChecked(undefined);
  };
  const named = columns.includes("firstName") || columns.includes("name");
  return (
    <Page title="Bring clients from a file" margin={read ? `${read.count} lines` : "CSV"}>
      {earlier.map(({ id, createdAt }) => (
        <MarginRow key={id} margin={<Moment at={createdAt} />} tone="attention">
          <Link href={`/people/bring/${id}`}>A file you began</Link>
        </MarginRow>
      ))}
      <MarginRow margin="File">
        <Stack $gap="0.6rem">
          <p>
            A table saved as CSV, with headings in its first line. Nobody is added before you have seen what would
            happen.
          </p>
          <div>
            <FileTrigger
              acceptedFileTypes={[".csv", "text/csv", ".txt"]}
              onSelect={(files) => {
                const file = files?.[0];
                if (file) take(file).catch(fail);
              }}
            >
              <Button weight={read ? "plain" : "primary"}>{read ? "Choose another file" : "Choose a file"}</Button>
            </FileTrigger>
          </div>
          {problem !== undefined && <Notice tone="problem">{problem}</Notice>}
        </Stack>
      </MarginRow>
      {!read && <BringChart requestId={requestId} />}
      {read && (
        <>
          <Columns read={read} columns={columns} onChange={setColumns} />
          <MarginRow margin="Next">
            <Stack $gap="0.6rem">
              {!named && <p>Say which column holds the first name, or the whole name.</p>}
              {checked ? (
                <div>
                  <Progress label="Checked" done={checked.done} all={checked.all} />
                  <p role="status">
                    {checked.done} of {checked.all} lines checked.
                  </p>
                </div>
              ) : (
                <div>
                  <Button weight="primary" isDisabled={!named} onPress={() => void check().catch(fail)}>
                    Check {read.count} lines
                  </Button>
                </div>
              )}
            </Stack>
          </MarginRow>
        </>
      )}
    </Page>
  );
}
interface ColumnsProps {
  readonly read: Read;
  readonly columns: readonly (ClientColumn | undefined)[];
  readonly onChange: (columns: readonly (ClientColumn | undefined)[]) => void;
}
/** What each column holds, with what stands in its first lines; each thing in one column. */
function Columns({ read, columns, onChange }: ColumnsProps) {
  const choose = (at: number, chosen: string): void =>
    onChange(
      columns.map((before, index) => {
        if (index === at) return chosen === "none" ? undefined : (chosen as ClientColumn);
        return before === chosen ? undefined : before;
      }),
    );
  return read.header.map((heading, at) => (
    <MarginRow key={at} margin={<bdi>{heading || `Column ${at + 1}`}</bdi>}>
      <Column>
        <Pick
          bare
          small
          label={`What ${heading || `column ${at + 1}`} holds`}
          value={columns[at] ?? "none"}
          options={columnOptions}
          onChange={(chosen) => choose(at, chosen)}
        />
        <Soft>
          <bdi>
            {read.first
              .map((row) => row[at] ?? "")
              .filter(Boolean)
              .join(" · ")}
          </bdi>
        </Soft>
      </Column>
    </MarginRow>
  ));
}
const Column = styled.div`
  display: grid;
  grid-template-columns: 13rem minmax(0, 1fr);
  gap: 0.25rem 1rem;
  align-items: center;
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
/** One client's whole chart, as another practice took it out. */
function BringChart({ requestId }: { readonly requestId: string }) {
  return (
    <MarginRow margin="One chart">
      <Stack $gap="0.6rem">
        <p>
          The chart of one client from another practice, as a FHIR file: they become a new client here, with every
          value, where it came from and what it was before.
        </p>
        <FileForm<FormState>
          action={async (before, sent) => bringChartAction(requestId, before, sent)}
          initial={{}}
          label="Choose a chart"
          accept={[".json", "application/json", "application/fhir+json"]}
        >
          {(state) => (state.message ? <Notice tone="problem">{state.message}</Notice> : null)}
        </FileForm>
      </Stack>
    </MarginRow>
  );
}
