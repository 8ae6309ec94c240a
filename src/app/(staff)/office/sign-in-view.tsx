"use client";
import { useTransition } from "react";
import { Checkbox } from "@/ui/kit/choice-fields";
import { MarginRow } from "@/ui/kit/page";
import type { SecondFactorState } from "@/usecases/identity";
import { singleKeysAction } from "./actions";
import { SecondFactor } from "./second-factor";

export interface SignInViewProps {
  readonly factor: SecondFactorState;
  readonly singleKeys: boolean;
}
/** One's own sign-in: the second factor, and the keyboard. */
export function SignInView({ factor, singleKeys }: SignInViewProps) {
  const [, start] = useTransition();
  return (
    <>
      <MarginRow margin="Your second factor">
        <SecondFactor factor={factor} />
      </MarginRow>
      <MarginRow margin="Your keyboard">
        <Checkbox
          label="Single keys do things: ? shows which. Off for who speaks to their computer."
          isSelected={singleKeys}
          onChange={(on) => start(() => singleKeysAction(on))}
        />
      </MarginRow>
    </>
  );
}
