"use client";
import { useState } from "react";
import styled from "styled-components";
import { rights as all, rightWords, roleWords, startingRights, wholeSet, without, type Right } from "@/core/team";
import type { Role } from "@/core/shared";
import { Checkbox } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Fields, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { requireSecondFactorAction, setRightsAction } from "./actions";

const plural = { office: "The office", practitioner: "Practitioners", supervisor: "Supervisors" } as const;
const changeable = ["office", "practitioner", "supervisor"] as const;

/** What each role may: sets that the practice narrows or widens. */
export interface RightsViewProps {
  readonly rights: Readonly<Record<Role, readonly Right[]>>;
  readonly secondFactorRequired: boolean;
  /** Owners alone change this. */
  readonly mayChange: boolean;
}
export function RightsView({ rights, secondFactorRequired, mayChange }: RightsViewProps) {
  return (
    <>
      <SectionTitle>What each role may</SectionTitle>
      <MarginRow margin={roleWords.owner}>
        <Soft>Everything, always: so that nobody is locked out.</Soft>
      </MarginRow>
      {changeable.map((role) => (
        <MarginRow key={role} margin={roleWords[role]}>
          <RightSet role={role} set={rights[role]} mayChange={mayChange} />
        </MarginRow>
      ))}
      <MarginRow margin="Second factor">
        <Stack $gap="0.4rem">
          <span>
            {secondFactorRequired
              ? "Everybody needs one: without it, nothing opens but one’s own account."
              : "Everybody decides for themselves."}
          </span>
          {mayChange && (
            <ActionForm
              action={requireSecondFactorAction}
              submit={secondFactorRequired ? "Let everybody decide" : "Ask everybody for one"}
              weight="quiet"
              hidden={{ on: String(!secondFactorRequired) }}
            />
          )}
        </Stack>
      </MarginRow>
    </>
  );
}
interface RightSetProps {
  readonly role: (typeof changeable)[number];
  readonly set: readonly Right[];
  readonly mayChange: boolean;
}
function RightSet({ role, set, mayChange }: RightSetProps) {
  const [chosen, setChosen] = useState<readonly Right[]>(set);
  const isStarting = set.join() === startingRights[role].join();
  return (
    <Stack $gap="0.4rem">
      <Soft>{set.map((right) => rightWords[right].toLowerCase()).join(", ") || "nothing but their own account"}</Soft>
      {mayChange && (
        <details>
          <summary>Change what {plural[role].toLowerCase()} may</summary>
          <Stack $gap="0.75rem">
            <ActionForm
              action={setRightsAction}
              submit={`Save for ${plural[role].toLowerCase()}`}
              weight="plain"
              hidden={{ role, rights: chosen.join(" ") }}
            >
              <Set>
                <legend>{plural[role]} may</legend>
                <Fields $least="15rem">
                  {all.map((right) => (
                    <Checkbox
                      key={right}
                      label={rightWords[right]}
                      isSelected={chosen.includes(right)}
                      // What a right needs comes with it, before one's eyes.
                      onChange={(on) => setChosen(on ? wholeSet([...chosen, right]) : without(chosen, right))}
                    />
                  ))}
                </Fields>
              </Set>
            </ActionForm>
            {!isStarting && (
              <ActionForm
                action={setRightsAction}
                submit="Back to the starting set"
                weight="quiet"
                hidden={{ role, rights: "", anew: "yes" }}
              />
            )}
          </Stack>
        </details>
      )}
    </Stack>
  );
}
const Set = styled.fieldset`
  border: 0;
  padding: 0;
  & legend {
    font-weight: 600;
    padding-block-end: 0.4rem;
  }
`;
