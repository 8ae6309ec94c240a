"use client";
import { useState } from "react";
import styled from "styled-components";
import { libraryRights, type Id, type LibraryRight } from "@/core/shared";
import { RadioGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { shareAction } from "../actions";
import type { QuestionnaireView } from "@/usecases/authoring";

export interface SharingProps {
  readonly id: Id<"Questionnaire">;
  readonly sharing: QuestionnaireView["sharing"];
}
const everyoneWords: Readonly<Record<LibraryRight, string>> = {
  edit: "Everyone may send and change it",
  use: "Everyone may send it; only some may change it",
  none: "Only some may send or change it",
};
const words: Readonly<Record<LibraryRight, string>> = {
  none: "not see it",
  use: "send it, not change it",
  edit: "send and change it",
};

/** Who in the practice may send it, and who may change it. */
export function Sharing({ id, sharing: { mayChange, everyone: now, people } }: SharingProps) {
  const [everyone, setEveryone] = useState(now);
  const [rights, setRights] = useState<Readonly<Record<string, LibraryRight>>>(() =>
    Object.fromEntries(people.map((p) => [p.id, p.may])),
  );
  // Whoever closes it keeps changing it; the server sees to that.
  const chosen = people.filter((p) => !p.always && !p.you);
  const least = (may: LibraryRight): LibraryRight =>
    libraryRights.indexOf(may) < libraryRights.indexOf(everyone) ? everyone : may;
  return (
    <>
      <SectionTitle>Who may use it</SectionTitle>
      <MarginRow
        margin={
          <>
            Owners may always
            <br />
            change it
          </>
        }
      >
        {!mayChange ? (
          <p>{everyoneWords[now]}. It is shared with you to send; a copy is yours to change.</p>
        ) : (
          <ActionForm
            action={shareAction}
            submit="Save"
            weight="plain"
            hidden={{
              id,
              everyone,
              ...Object.fromEntries(
                chosen.map((p) => [`may:${p.id}`, everyone === "edit" ? "none" : (rights[p.id] ?? "none")]),
              ),
            }}
          >
            <Stack>
              <RadioGroup
                label="In this practice"
                value={everyone}
                onChange={(v) => setEveryone(v as LibraryRight)}
                options={[...libraryRights].reverse().map((r) => ({ value: r, label: everyoneWords[r] }))}
              />
              {everyone !== "edit" &&
                chosen.map((part) => (
                  <Person key={part.id}>
                    <span>
                      <bdi>{part.name}</bdi> <Soft>{part.title}</Soft>
                    </span>
                    <Pick
                      bare
                      small
                      label={`${part.name} may`}
                      value={least(rights[part.id] ?? "none")}
                      options={libraryRights.filter((r) => r === least(r)).map((r) => ({ value: r, label: words[r] }))}
                      onChange={(v) => setRights({ ...rights, [part.id]: v as LibraryRight })}
                    />
                  </Person>
                ))}
            </Stack>
          </ActionForm>
        )}
      </MarginRow>
    </>
  );
}
const Person = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 14rem);
  gap: 1rem;
  align-items: center;
`;
