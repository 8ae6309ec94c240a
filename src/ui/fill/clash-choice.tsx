"use client";
import { allItems, answerText, isQuestion, linkIdOf, type AnswerValue } from "@/core/questionnaire";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { Cluster, Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import type { FillPart } from "@/usecases/filling";
import type { Clash } from "./answer-sync";
import { usePage } from "./page";

/** Two answers to one question, from two devices: nothing is lost until one is chosen. */
export function ClashChoice({ clash, part }: { readonly clash: Clash; readonly part: FillPart }) {
  const { words, sync, nameOf } = usePage();
  const { locale } = useTimeFrame();
  const by = nameOf(clash.theirs.by);
  const item = allItems(part.questionnaire).find((i) => i.linkId === linkIdOf(clash.key));
  const { change } = clash.theirs;
  const say = (values: readonly AnswerValue[]): string =>
    item && isQuestion(item) && values.length > 0
      ? values.map((value) => answerText(item, value, { yes: words("yes"), no: words("no"), locale })).join(", ")
      : words("notAnswered");
  return (
    <div style={{ marginBlockEnd: "0.9rem" }}>
      <Notice tone="problem">
        <Stack $gap="0.5rem">
          <strong>{by ? words("clashBy", { name: by }) : words("clash")}</strong>
          <span dir="auto">“{say(change.kind === "values" ? change.values : [])}”</span>
          <Cluster>
            <Button onPress={() => sync.choose(clash, "mine")}>{words("keepMine")}</Button>
            <Button onPress={() => sync.choose(clash, "theirs")}>{words("takeTheirs")}</Button>
          </Cluster>
        </Stack>
      </Notice>
    </div>
  );
}
