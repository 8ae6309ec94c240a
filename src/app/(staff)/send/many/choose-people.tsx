"use client";
import { dateWords } from "@/core/questionnaire";
import { languageName } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { Link } from "@/ui/kit/link";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { NamesPages } from "@/ui/kit/names-pages";
import { Pick } from "@/ui/kit/pick";
import { useTimeFrame } from "@/ui/kit/time";
import type { MailingOptions, MailingPerson } from "@/usecases/sending";
import type { People, Wish } from "./use-people";

const whens = [
  { value: "never", label: "who never returned it" },
  { value: "over", label: "whose last one is too old, or who never returned it" },
  { value: "soon", label: "whose last one runs out soon" },
];
const monthsToChoose = [3, 6, 12, 24];
const daysToChoose = [14, 30, 60, 90];

interface AnyOfProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly id: string; readonly name: string }[];
  readonly onChange: (value: string) => void;
}
function AnyOf({ label, value, options, onChange }: AnyOfProps) {
  return (
    <Pick
      label={label}
      value={value}
      placeholder="any"
      options={[{ value: "any", label: "any" }, ...options.map(({ id, name }) => ({ value: id, label: name }))]}
      onChange={(id) => onChange(id === "any" ? "" : id)}
    />
  );
}

/** Whom: by kind of visit, practitioner, or when a questionnaire last came back. */
export function ChoosePeople({ options, people }: { readonly options: MailingOptions; readonly people: People }) {
  const { wish, setWish } = people;
  const { about, when } = wish;
  const isConsent = options.questionnaires.some((q) => q.id === about && q.kind === "consent");
  const questionnaires = options.questionnaires.map(({ id, title }) => ({ id, name: title }));
  return (
    <MarginRow margin="Choose by">
      <Fields>
        <AnyOf
          label="Kind of visit"
          value={wish.visitType}
          options={options.visitTypes}
          onChange={(visitType) => setWish({ visitType })}
        />
        <AnyOf
          label="Practitioner"
          value={wish.staff}
          options={options.staff}
          onChange={(staff) => setWish({ staff })}
        />
        <AnyOf
          label="Questionnaire"
          value={about}
          options={questionnaires}
          onChange={(next) => setWish({ about: next })}
        />
        {about && (
          <Pick
            label="Those"
            value={when}
            placeholder="whether or not it came back"
            options={[
              ...whens,
              ...(isConsent ? [{ value: "renew", label: "whose consent is to be given (again)" }] : []),
            ]}
            onChange={(next) => setWish({ when: next as Wish["when"] })}
          />
        )}
        {about && (when === "over" || when === "soon") && (
          <Pick
            label="One return holds for"
            value={String(wish.months)}
            options={monthsToChoose.map((months) => ({ value: String(months), label: `${months} months` }))}
            onChange={(months) => setWish({ months: Number(months) })}
          />
        )}
        {about && when === "soon" && (
          <Pick
            label="Runs out within"
            value={String(wish.days)}
            options={daysToChoose.map((days) => ({ value: String(days), label: `${days} days` }))}
            onChange={(days) => setWish({ days: Number(days) })}
          />
        )}
      </Fields>
    </MarginRow>
  );
}

/** Everybody who fits, a page at a time, each to be left out by a press; who cannot be reached is said. */
export function PeopleChosen({ people }: { readonly people: People }) {
  const { reachable, lost, lostNames, already, twice, lines, from, previous, next } = people;
  const one = already === 1;
  return (
    <>
      <MarginRow margin={<span role="status">{reachable} can be reached</span>}>
        <Stack $gap="0.35rem">
          {people.unreachable && <p>People cannot be looked up just now. It goes on when the line is back.</p>}
          {reachable === 0 && <p>Nobody is like that. Widen the choice above.</p>}
          {reachable > 0 && (
            <Cluster>
              <Button weight="quiet" onPress={() => people.chooseAll(true)}>
                Choose all
              </Button>
              <Button weight="quiet" onPress={() => people.chooseAll(false)}>
                Choose none
              </Button>
            </Cluster>
          )}
          {lines.map((person) => (
            <Checkbox
              key={person.id}
              isSelected={people.isIncluded(person.id) && (twice || !person.has)}
              isDisabled={person.has && !twice}
              onChange={(on) => people.include(person.id, on)}
              label={<OnePerson person={person} />}
            />
          ))}
          <NamesPages
            from={from}
            shown={lines.length}
            all={reachable}
            previous={previous}
            next={next}
            onTurn={people.setFrom}
          />
          {already > 0 && (
            <Checkbox
              isSelected={twice}
              onChange={people.setTwice}
              label={
                <>
                  Also to {one ? "the one" : `those ${already}`} who {one ? "has" : "have"} some of it open already{" "}
                  <Soft>they get a second packet</Soft>
                </>
              }
            />
          )}
        </Stack>
      </MarginRow>
      {lost > 0 && (
        <MarginRow margin={`${lost} cannot be reached`} tone="attention">
          <p>
            No e-mail and no phone on file:{" "}
            {lostNames.map((person, index) => (
              <span key={person.id}>
                {index > 0 ? ", " : ""}
                <Link href={`/people/${person.id}/send`}>
                  <bdi>{person.name}</bdi>
                </Link>
              </span>
            ))}
            {lost > lostNames.length ? ` and ${lost - lostNames.length} more` : ""}. They are left out.
          </p>
        </MarginRow>
      )}
    </>
  );
}
function OnePerson({ person }: { readonly person: MailingPerson }) {
  const { locale } = useTimeFrame();
  return (
    <>
      <bdi>{person.name}</bdi>{" "}
      <Soft>
        {person.through ? `by ${person.through}, ` : ""}
        {person.masked}, reads {languageName(person.language)}
        {person.returned ? `, returned it ${dateWords(person.returned, locale)}` : ""}
        {person.has ? ", has it open already" : ""}
      </Soft>
    </>
  );
}
