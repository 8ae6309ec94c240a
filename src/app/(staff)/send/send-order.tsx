"use client";
import styled from "styled-components";
import { sendingOf, type SendDraft, type SendOffer, type SendStep } from "@/core/packet";
import { Button } from "@/ui/kit/button";
import { MarginRow } from "@/ui/kit/page";

export interface SendOrderProps {
  readonly offer: Omit<SendOffer, "questionnaires"> & {
    readonly questionnaires: readonly { readonly id: string; readonly title: string }[];
  };
  readonly draft: SendDraft;
  readonly step: (step: SendStep) => void;
}
/** The order in which the questionnaires of a packet are met, as it will be, and a way to change it. */
export function SendOrder({ offer, draft, step }: SendOrderProps) {
  const { questionnaireIds: ids } = sendingOf(offer, draft);
  if (ids.length < 2) return null;
  const titleOf = (id: string): string => offer.questionnaires.find((q) => q.id === id)?.title ?? "";
  return (
    <MarginRow margin="In this order">
      <Order>
        {ids.map((id, index) => (
          <li key={id}>
            <span>{titleOf(id)}</span>
            <Button
              weight="quiet"
              isDisabled={index === 0}
              aria-label={`Move ${titleOf(id)} up`}
              onPress={() => step({ do: "move", id, by: -1 })}
            >
              Up
            </Button>
            <Button
              weight="quiet"
              isDisabled={index === ids.length - 1}
              aria-label={`Move ${titleOf(id)} down`}
              onPress={() => step({ do: "move", id, by: 1 })}
            >
              Down
            </Button>
          </li>
        ))}
      </Order>
    </MarginRow>
  );
}
const Order = styled.ol`
  padding-inline-start: 1.4rem;
  & > li > span {
    margin-inline-end: 0.6rem;
  }
`;
