"use client";
import { useRouter } from "next/navigation";
import { useEffect } from "react";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { Cluster, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Progress } from "@/ui/kit/progress";
import { Moment } from "@/ui/kit/time";
import type { ImportView } from "@/usecases/charting";
import { dropImportAction, startImportAction } from "../actions";

const lookAgainMs = 1000;
/** What would happen, then how far it has come. It goes on by itself; this page may be left and found again. */
export function ImportPage({ view }: { readonly view: ImportView }) {
  const router = useRouter();
  const underWay = view.started && !view.over;
  useEffect(() => {
    if (!underWay) return;
    const timer = setInterval(() => router.refresh(), lookAgainMs);
    return () => clearInterval(timer);
  }, [underWay, router]);
  const all = view.ready + view.added;
  const people = (count: number): string => (count === 1 ? "1 client" : `${count} clients`);
  const state = () => {
    if (view.over) return "Done";
    return view.started ? "Under way" : "Checked";
  };
  return (
    <Page title="Bring clients from a file" margin={<Moment at={view.createdAt} />}>
      <MarginRow margin={state()}>
        <Stack>
          {view.started ? (
            <div>
              <Progress label="Added" done={view.added} all={all} />
              <p role="status">
                {view.added} of {people(all)} added.
              </p>
            </div>
          ) : (
            <p role="status">
              {people(view.ready)} can be added. {view.refused === 0 ? "No line is refused." : refusedWords(view)}
            </p>
          )}
          {underWay && <Soft>You may leave this page: it goes on. Nobody is added twice.</Soft>}
          {!view.started && view.ready > 0 && (
            <ActionForm
              action={startImportAction}
              submit={`Add ${people(view.ready)}`}
              hidden={{ importId: view.id }}
            />
          )}
          {!underWay && (
            <Cluster>
              {view.over && <Link href="/people">People</Link>}
              <ActionForm
                action={dropImportAction}
                submit={view.over ? "Done with this file" : "Drop this file"}
                weight="plain"
                hidden={{ importId: view.id }}
              />
            </Cluster>
          )}
        </Stack>
      </MarginRow>
      {view.refused > 0 && (
        <>
          <SectionTitle>Refused</SectionTitle>
          <MarginRow margin={view.refused === 1 ? "1 line" : `${view.refused} lines`}>
            <a href={`/api/imports/${view.id}/refused.csv`} download>
              Take the refused lines out as a file
            </a>
          </MarginRow>
          <ul>
            {view.refusedRows.map((row) => (
              <li key={row.line}>
                <MarginRow margin={`Line ${row.line}`} tone="attention">
                  <bdi>{[row.cells.firstName, row.cells.lastName].filter(Boolean).join(" ") || "No name"}</bdi>{" "}
                  <Soft>{row.reason}</Soft>
                </MarginRow>
              </li>
            ))}
          </ul>
          {view.refused > view.refusedRows.length && (
            <MarginRow margin="">and {view.refused - view.refusedRows.length} more, in the file</MarginRow>
          )}
        </>
      )}
    </Page>
  );
}
const refusedWords = ({ refused }: ImportView): string =>
  refused === 1 ? "1 line is refused." : `${refused} lines are refused.`;
