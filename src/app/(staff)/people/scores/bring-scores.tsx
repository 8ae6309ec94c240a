"use client";
import { useState, useTransition } from "react";
import { FileTrigger } from "react-aria-components/FileTrigger";
import { Button } from "@/ui/kit/button";
import { Link } from "@/ui/kit/link";
import { Notice } from "@/ui/kit/notice";
import { MarginRow, Page, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { useTimeFrame } from "@/ui/kit/time";
import type { CheckedScores, ScoreChoice } from "@/usecases/measures";
import { isMonthFirst, textOfFile } from "../table-file";
import { bringScoresAction } from "./actions";

const mostBytes = 2_000_000;
const mostShown = 200;
const keyOf = ({ questionnaireId, linkId }: ScoreChoice): string => `${questionnaireId} ${linkId}`;
/** Scores from before, out of a table: whose, when, how much. Every line is looked at before any is brought. */
export function BringScores({
  choices,
  requestId,
}: {
  readonly choices: readonly ScoreChoice[];
  readonly requestId: string;
}) {
  const { locale } = useTimeFrame();
  const [chosen, setChosen] = useState("");
  const [file, setFile] = useState<{ readonly name: string; readonly text: string }>();
  const [found, setFound] = useState<CheckedScores | string>();
  const [busy, start] = useTransition();
  const choice = choices.find((one) => keyOf(one) === chosen);
  const look = (text: string, of: ScoreChoice, dry: boolean): void =>
    start(async () => {
      const { questionnaireId, linkId } = of;
      setFound(
        await bringScoresAction({ requestId, questionnaireId, linkId, text, monthFirst: isMonthFirst(locale), dry }),
      );
    });
  const done = typeof found === "object" && found.brought !== undefined;
  return (
    <Page title="Bring earlier scores" margin={<Link href="/people/caseload">Caseload</Link>}>
      <MarginRow margin="What the file needs">
        <p>
          A table with headings (CSV): <strong>Date</strong>, <strong>Score</strong>, and whose it is:{" "}
          <strong>E-mail</strong>, or <strong>Name</strong> and <strong>Birth date</strong>. One kind of score a file.
        </p>
      </MarginRow>
      <MarginRow margin="Which score">
        <Pick
          bare
          label="Which score"
          value={chosen}
          placeholder="choose"
          options={choices.map((one) => ({ value: keyOf(one), label: `${one.title}, ${one.least} to ${one.most}` }))}
          onChange={(key) => {
            setChosen(String(key));
            setFound(undefined);
            const of = choices.find((one) => keyOf(one) === key);
            if (file && of) look(file.text, of, true);
          }}
        />
      </MarginRow>
      {choice && (
        <MarginRow margin="The file">
          <Stack>
            <FileTrigger
              acceptedFileTypes={[".csv", "text/csv", "text/plain"]}
              onSelect={(files) => {
                const [one] = files ?? [];
                if (!one) return;
                if (one.size > mostBytes) {
                  setFound("That file is larger than 2 MB. Nothing was brought.");
                  return;
                }
                void one.arrayBuffer().then((bytes) => {
                  const text = textOfFile(bytes);
                  setFile({ name: one.name, text });
                  look(text, choice, true);
                });
              }}
            >
              <Button weight={file ? "plain" : "primary"}>{file ? "Choose another file" : "Choose a file"}</Button>
            </FileTrigger>
            {file && <Soft>{file.name}</Soft>}
          </Stack>
        </MarginRow>
      )}
      <div role="status">
        {busy && <Soft>Looking at every line…</Soft>}
        {typeof found === "string" && <Notice tone="problem">{found}</Notice>}
        {typeof found === "object" && (
          <Notice tone={done ? "settled" : "attention"}>
            {done
              ? `${found.brought} scores were brought; ${found.refused.length} lines were not.`
              : `${found.ready} ${found.ready === 1 ? "line is" : "lines are"} right, ${found.refused.length} cannot be brought. Nothing is brought yet.`}
          </Notice>
        )}
      </div>
      {typeof found === "object" && !done && found.ready > 0 && file && choice && (
        <MarginRow margin="">
          <Button weight="primary" isDisabled={busy} onPress={() => look(file.text, choice, false)}>
            Bring {found.ready} {found.ready === 1 ? "score" : "scores"}
          </Button>
        </MarginRow>
      )}
      {typeof found === "object" &&
        found.refused.slice(0, mostShown).map(({ line, why }) => (
          <MarginRow key={line} margin={`Line ${line}`}>
            {why}
          </MarginRow>
        ))}
    </Page>
  );
}
