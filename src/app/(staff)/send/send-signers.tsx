"use client";
import { placeKey, type SignerPick } from "@/core/packet";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { signerWords } from "../signer-words";
import type { SendHowProps } from "./send-how";

/** Who signs where nobody is known beforehand: chosen now, or once it is back. */
export function SendSigners({ options, draft, step }: SendHowProps) {
  const places = options.questionnaires
    .filter((q) => draft.chosen.includes(q.id))
    .flatMap((q) => q.chooses.map((place) => ({ ...place, key: placeKey(q.id, place.place), questionnaire: q.title })));
  if (places.length === 0) return null;
  const people = [
    { value: "", label: "chosen once it is back" },
    ...options.others.flatMap((one) =>
      one.relationId ? [{ value: `relation ${one.relationId}`, label: `${one.name}, ${one.kind}` }] : [],
    ),
    ...options.staff.map((one) => ({ value: `staff ${one.id}`, label: `${one.name}, of the practice` })),
    { value: "named ", label: "Somebody else, by name" },
  ];
  return (
    <MarginRow margin="Who signs">
      <Stack $gap="0.6rem">
        {places.map(({ key, questionnaire, kind, title, text }) => {
          const pick = draft.signers[key];
          const set = (next: SignerPick | undefined): void => step({ do: "signer", key, pick: next });
          return (
            <Stack key={key} $gap="0.3rem">
              <Cluster $gap="0.3rem 1rem">
                <span>
                  <bdi>{questionnaire}</bdi>: <strong>{title || signerWords[kind]}</strong>
                </span>
                <Pick
                  bare
                  small
                  label={`Who signs “${questionnaire}” as ${title || signerWords[kind]}`}
                  value={pick ? `${pick.who} ${pick.id}` : ""}
                  options={people}
                  onChange={(value) => {
                    const [who = "", id = ""] = value.split(" ");
                    set(who === "" ? undefined : { name: "", email: "", ...pick, who: who as SignerPick["who"], id });
                  }}
                />
              </Cluster>
              {text !== "" && (
                <Soft as="p">
                  <bdi>{text}</bdi>
                </Soft>
              )}
              {pick?.who === "named" && (
                <Fields $least="11rem">
                  <TextField label="Their name" value={pick.name} onChange={(name) => set({ ...pick, name })} />
                  <TextField
                    label="Their e-mail address"
                    type="email"
                    dir="ltr"
                    value={pick.email}
                    onChange={(email) => set({ ...pick, email })}
                  />
                </Fields>
              )}
            </Stack>
          );
        })}
        <Soft as="p">They are asked by a link and a code of their own, once it is back and it is their turn.</Soft>
      </Stack>
    </MarginRow>
  );
}
