"use client";
import { memo } from "react";
import {
  shownWhenWords,
  type Display,
  type Questionnaire,
  type SigningTerms,
  questionsByKey,
} from "@/core/questionnaire";
import { placeBefore, placesOf } from "@/core/signing";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { ListLine } from "@/ui/kit/ledger";
import { Cluster, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { signerWords } from "../../../signer-words";

export interface SignersPanelProps {
  readonly questionnaire: Questionnaire;
  readonly change: (change: (now: Questionnaire) => Questionnaire, mark?: string) => void;
  readonly onGo: (linkId: string) => void;
}
/** Who signs, in their order, each with what it hangs on; and what holds for all of them. */
export const SignersPanel = memo(function SignersPanel({ questionnaire, change, onGo }: SignersPanelProps) {
  const places = placesOf(questionnaire);
  if (places.length === 0 && !questionnaire.signed) return null;
  const keys = questionsByKey(questionnaire);
  const { freeOrder, talk, months } = questionnaire.signing ?? {};
  const put = <K extends keyof SigningTerms>(key: K, value: SigningTerms[K] | undefined, mark?: string): void =>
    change((now) => {
      const { signing, ...rest } = now;
      const { [key]: _, ...others } = signing ?? {};
      const next: SigningTerms = value === undefined ? others : { ...others, [key]: value };
      return Object.keys(next).length > 0 ? { ...rest, signing: next } : rest;
    }, mark);
  return (
    <>
      <SectionTitle>Signers</SectionTitle>
      <ol>
        {places.map((place, index) => (
          <ListLine key={place.linkId} margin={`${index + 1}. ${afterWords(questionnaire, place)}`}>
            <Cluster $gap="0 0.75rem">
              <strong>{whoWords(place)}</strong>
              <Button
                weight="quiet"
                onPress={() => onGo(place.linkId)}
                aria-label={`Go to ${place.text || "this place"}`}
              >
                <bdi>{place.text || "no words yet"}</bdi>
              </Button>
              <Soft>{whenWords(place, shownWhenWords(place, keys))}</Soft>
            </Cluster>
          </ListLine>
        ))}
      </ol>
      <MarginRow margin="For all of them">
        <Stack $gap="0.5rem">
          {places.length > 1 && (
            <Checkbox
              label="In any order"
              isSelected={freeOrder === true}
              onChange={(on) => put("freeOrder", on ? true : undefined)}
            />
          )}
          <Checkbox
            label="Counts only once you recorded the talk about it"
            isSelected={talk === true}
            onChange={(on) => put("talk", on ? true : undefined)}
          />
          {questionnaire.kind === "consent" && (
            <div style={{ maxInlineSize: "14rem" }}>
              <TextField
                label="Stands for months"
                help="Empty: until it is withdrawn."
                inputMode="numeric"
                value={months?.toString() ?? ""}
                onChange={(typed) =>
                  put(
                    "months",
                    /^[1-9]\d{0,3}$/.test(typed.trim()) ? Math.min(1200, Number(typed.trim())) : undefined,
                    "months",
                  )
                }
              />
            </div>
          )}
        </Stack>
      </MarginRow>
    </>
  );
});
const whoWords = ({ signer, signing }: Display): string => {
  if (signing?.title) return signing.title;
  return signer ? signerWords[signer] : "whoever fills it in";
};
const afterWords = (questionnaire: Questionnaire, place: Display): string => {
  const before = placeBefore(questionnaire, place);
  if (questionnaire.signing?.freeOrder) return "at any time";
  return before ? `after ${placesOf(questionnaire).indexOf(before) + 1}.` : "first";
};
function whenWords({ signing }: Display, shown: string | undefined): string {
  const { from, below } = signing?.ages ?? {};
  return [
    shown,
    from === undefined ? undefined : `from ${from} years`,
    below === undefined ? undefined : `below ${below} years`,
    signing?.optional ? "may be left unsigned" : undefined,
  ]
    .filter((one) => one !== undefined && one !== "")
    .join(", ");
}
