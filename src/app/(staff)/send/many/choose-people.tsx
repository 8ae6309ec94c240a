"use client";
import { dateWords } from "@/core/questionnaire";
import { languageName } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { Link } from "@/ui/kit/link";
import { Cluster, Fields, MarginRow, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { useTimeFrame } from "@/ui/kit/time";
import type { MailingOptions } from "@/usecases/sending";
import type { People, Person, Wish } from "./use-people";

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
            options={whens}
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

/** Everybody who fits, each to be left out by a press; who cannot be reached is said. */
export function PeopleChosen({ people }: { readonly people: People }) {
  const { reachable, lost, already, writing, twice } = people;
  const one = already.length === 1;
  return (
    <>
      <MarginRow margin={`${reachable.length} can be reached`}>
        <Stack $gap="0.35rem">
          {reachable.length === 0 && <p>Nobody is like that. Widen the choice above.</p>}
          {reachable.length > 0 && (
            <Cluster>
              <Button weight="quiet" onPress={() => people.leaveOut([])}>
                Choose all
              </Button>
              <Button weight="quiet" onPress={() => people.leaveOut(reachable)}>
                Choose none
              </Button>
            </Cluster>
          )}
          {reachable.map((person) => (
            <Checkbox
              key={person.id}
              isSelected={writing.includes(person)}
              isDisabled={people.has(person) && !twice}
              onChange={(on) => people.include(person, on)}
              label={<OnePerson person={person} people={people} />}
            />
          ))}
          {already.length > 0 && (
            <Checkbox
              isSelected={twice}
              onChange={people.setTwice}
              label={
                <>
                  Also to {one ? "the one" : `those ${already.length}`} who {one ? "has" : "have"} some of it open
                  already <Soft>they get a second packet</Soft>
                </>
              }
            />
          )}
        </Stack>
      </MarginRow>
      {lost.length > 0 && (
        <MarginRow margin={`${lost.length} cannot be reached`} tone="attention">
          <p>
            No e-mail and no phone on file:{" "}
            {lost.map((person, index) => (
              <span key={person.id}>
                {index > 0 ? ", " : ""}
                <Link href={`/people/${person.id}/send`}>
                  <bdi>{person.name}</bdi>
                </Link>
              </span>
            ))}
            . They are left out.
          </p>
        </MarginRow>
      )}
    </>
  );
}
function OnePerson({ person, people }: { readonly person: Person; readonly people: People }) {
  const { locale } = useTimeFrame();
  const returned = people.wish.about ? person.returned[people.wish.about] : undefined;
  return (
    <>
      <bdi>{person.name}</bdi>{" "}
      <Soft>
        {person.through ? `by ${person.through}, ` : ""}
        {person.masked}, reads {languageName(person.language)}
        {returned ? `, returned it ${dateWords(returned, locale)}` : ""}
        {people.has(person) ? ", has it open already" : ""}
      </Soft>
    </>
  );
}
