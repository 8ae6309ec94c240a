import { useState } from "react";
import type { PeopleWish } from "@/core/scheduling";
import type { Id } from "@/core/shared";
import type { MailingPeople } from "@/usecases/sending";
import { useFound } from "../../use-found";
import { mailingPeopleAction, type ChoiceAsked } from "./actions";

/** Whom a mailing is for, as it is chosen; the empty text is "any". */
export interface Wish {
  readonly visitType: string;
  readonly staff: string;
  /** A questionnaire, and when it last came back. */
  readonly about: string;
  readonly when: "" | "never" | "over" | "soon" | "renew";
  readonly months: number;
  readonly days: number;
}
const anybody: Wish = { visitType: "", staff: "", about: "", when: "", months: 12, days: 30 };

const wishOf = ({ visitType, staff, about, when, months, days }: Wish): PeopleWish => ({
  ...(visitType ? { visitTypeId: visitType as Id<"VisitType"> } : {}),
  ...(staff ? { staffId: staff as Id<"Staff"> } : {}),
  ...(about && when && when !== "renew"
    ? { due: { questionnaireId: about as Id<"Questionnaire">, months, when, days } }
    : {}),
});

/** Who fits, who of them can be reached, and who is written to in the end: chosen here, told by the server. */
export function usePeople(chosen: readonly string[], first: MailingPeople, renew?: string) {
  const [wish, setWish] = useState<Wish>(renew ? { ...anybody, about: renew, when: "renew" } : anybody);
  const [everybody, setEverybody] = useState(true);
  const [except, setExcept] = useState<readonly string[]>([]);
  const [twice, setTwice] = useState(false);
  const [from, setFrom] = useState(0);
  const choice: ChoiceAsked = {
    ...wishOf(wish),
    ...(wish.about ? { about: wish.about } : {}),
    ...(wish.about && wish.when === "renew" ? { renewing: wish.about } : {}),
    questionnaireIds: chosen,
    twice,
    everybody,
    except,
  };
  const { answer, settled, unreachable } = useFound({ ...choice, from }, mailingPeopleAction, first);
  const shown = answer ?? first;
  return {
    wish,
    setWish: (part: Partial<Wish>) => {
      setWish({ ...wish, ...part });
      setFrom(0);
    },
    choice,
    /** What stands there is true of what is chosen now. */
    settled,
    unreachable,
    ...shown,
    from,
    setFrom,
    twice,
    setTwice,
    chooseAll: (all: boolean) => {
      setEverybody(all);
      setExcept([]);
    },
    include: (id: string, on: boolean) =>
      setExcept(on === everybody ? except.filter((one) => one !== id) : [...except, id]),
    isIncluded: (id: string) => except.includes(id) !== everybody,
  };
}
export type People = ReturnType<typeof usePeople>;
