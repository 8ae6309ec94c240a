"use client";
import { Link } from "@/ui/link";
import { useMemo, useState } from "react";
import { sendingOrder } from "@/core/packet";
import { dateWords, type QuestionnaireKind } from "@/core/questionnaire";
import { languageName, type Id, type Instant } from "@/core/shared";
import { fitsWish, type PeopleWish, type PersonFacts } from "@/core/scheduling";
import { Button } from "@/ui/button";
import { DateField } from "@/ui/date-field";
import { Checkbox, CheckboxGroup, TextField } from "@/ui/fields";
import { ActionForm } from "@/ui/form";
import { Notice } from "@/ui/notice";
import { Cluster, Fields, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/page";
import { Pick } from "@/ui/pick";
import { Moment, useTimeFrame } from "@/ui/time";
import { startMailingAction } from "./actions";

interface Person extends PersonFacts {
  readonly name: string;
  readonly language: string;
  readonly channel: "email" | "text" | undefined;
  readonly masked: string | undefined;
  readonly through: string | undefined;
  readonly open: readonly Id<"Questionnaire">[];
}
export interface ManyViewProps {
  readonly requestId: string;
  readonly options: {
    readonly today: string;
    readonly expiresOn: string;
    readonly people: readonly Person[];
    readonly questionnaires: readonly {
      readonly id: Id<"Questionnaire">;
      readonly title: string;
      readonly kind: QuestionnaireKind;
      readonly languages: readonly string[];
    }[];
    readonly standing: readonly {
      readonly id: string;
      readonly title: string;
      readonly questionnaireIds: readonly string[];
      readonly prefillIds: readonly string[];
      readonly leafletIds: readonly string[];
    }[];
    readonly visitTypes: readonly { readonly id: Id<"VisitType">; readonly name: string }[];
    readonly staff: readonly { readonly id: Id<"Staff">; readonly name: string }[];
    readonly earlier: readonly {
      readonly id: string;
      readonly createdAt: Instant;
      readonly people: number;
      readonly written: number;
      readonly over: boolean;
    }[];
  };
}
const any = "";
const whens = [
  { value: any, label: "whether or not it came back" },
  { value: "never", label: "who never returned it" },
  { value: "over", label: "whose last one is too old, or who never returned it" },
  { value: "soon", label: "whose last one runs out soon" },
];
const monthsToChoose = [3, 6, 12, 24];
const daysToChoose = [14, 30, 60, 90];
const main = (tag: string): string => tag.split("-")[0]!.toLowerCase();

/** One packet for many people: whom, what, and who cannot be reached, before anything is sent. */
export function ManyView({ options, requestId }: ManyViewProps) {
  const { locale } = useTimeFrame();
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [prefill, setPrefill] = useState<readonly string[]>([]);
  const [leaflets, setLeaflets] = useState<readonly string[]>([]);
  const [standing, setStanding] = useState("");
  const [visitType, setVisitType] = useState(any);
  const [staff, setStaff] = useState(any);
  const [about, setAbout] = useState(any);
  const [when, setWhen] = useState(any);
  const [months, setMonths] = useState(12);
  const [days, setDays] = useState(30);
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const [twice, setTwice] = useState(false);
  const [expiresOn, setExpiresOn] = useState(options.expiresOn);
  const [dueOn, setDueOn] = useState("");
  const [line, setLine] = useState("");
  const fitting = useMemo(() => {
    const wish: PeopleWish = {
      ...(visitType ? { visitTypeId: visitType as Id<"VisitType"> } : {}),
      ...(staff ? { staffId: staff as Id<"Staff"> } : {}),
      ...(about && when
        ? {
            due: {
              questionnaireId: about as Id<"Questionnaire">,
              months,
              when: when as "over" | "never" | "soon",
              days,
            },
          }
        : {}),
    };
    return options.people.filter((p) => fitsWish(p, wish, options.today));
  }, [options, visitType, staff, about, when, months, days]);
  const has = (p: Person): boolean => chosen.some((q) => p.open.some((o) => o === q));
  const reachable = fitting.filter((p) => p.channel !== undefined);
  const lost = fitting.filter((p) => p.channel === undefined);
  const already = reachable.filter(has);
  const writing = reachable.filter((p) => !without.has(p.id) && (twice || !has(p)));
  const picked = options.questionnaires.filter((q) => chosen.includes(q.id));
  const lacking = picked.flatMap((q) => {
    const n = writing.filter((p) => !q.languages.some((l) => main(l) === main(p.language)));
    return n.length > 0
      ? [{ title: q.title, languages: [...new Set(n.map((p) => languageName(p.language)))], people: n.length }]
      : [];
  });
  const ordered = sendingOrder(
    chosen,
    options.standing.find((s) => s.id === standing)?.questionnaireIds ?? [],
    options.questionnaires.map((q) => q.id),
  );
  const take = (id: string): void => {
    const step = options.standing.find((x) => x.id === id);
    setStanding(id);
    if (step) {
      setChosen(step.questionnaireIds.filter((q) => options.questionnaires.some((x) => x.id === q)));
      setPrefill(step.prefillIds);
      setLeaflets(step.leafletIds);
    }
  };
  const byMail = writing.filter((p) => p.channel === "email").length;
  const byText = writing.length - byMail;
  return (
    <Page title="Send to many" margin={`${options.people.length} clients`}>
      {options.earlier
        .filter((m) => !m.over)
        .map((m) => (
          <MarginRow key={m.id} margin={<Moment at={m.createdAt} />} tone="attention">
            <Link href={`/send/many/${m.id}`}>
              A mailing is under way: {m.written} of {m.people}
            </Link>
          </MarginRow>
        ))}
      <SectionTitle>What</SectionTitle>
      {options.standing.length > 0 && (
        <MarginRow margin="Standing packet">
          <div style={{ maxInlineSize: "24rem" }}>
            <Pick
              label="Begin with a standing packet"
              value={standing}
              placeholder="none, choose below"
              options={options.standing.map((s) => ({ value: s.id, label: s.title }))}
              onChange={take}
            />
          </div>
        </MarginRow>
      )}
      <MarginRow margin={`${chosen.length} of ${options.questionnaires.length} chosen`}>
        <CheckboxGroup
          label="What to send"
          value={[...chosen]}
          onChange={setChosen}
          options={options.questionnaires.map((q) => ({ value: q.id, label: q.title, note: q.kind }))}
        />
      </MarginRow>
      <MarginRow margin="How">
        <Stack>
          <Fields>
            <DateField label="Open until" value={expiresOn} onChange={setExpiresOn} locale={locale} />
            <DateField label="Wanted by" optional="(if you like)" value={dueOn} onChange={setDueOn} locale={locale} />
          </Fields>
          <TextField
            label="A line to all of them"
            optional="(if you like)"
            help="Stands in each message, so nothing about anybody’s health."
            value={line}
            onChange={setLine}
            maxLength={500}
            long
          />
        </Stack>
      </MarginRow>
      <SectionTitle>Whom</SectionTitle>
      <MarginRow margin="Choose by">
        <Fields>
          <Pick
            label="Kind of visit"
            value={visitType}
            placeholder="any"
            options={[
              { value: "any", label: "any" },
              ...options.visitTypes.map((v) => ({ value: v.id, label: v.name })),
            ]}
            onChange={(v) => setVisitType(v === "any" ? any : v)}
          />
          <Pick
            label="Practitioner"
            value={staff}
            placeholder="any"
            options={[{ value: "any", label: "any" }, ...options.staff.map((s) => ({ value: s.id, label: s.name }))]}
            onChange={(v) => setStaff(v === "any" ? any : v)}
          />
          <Pick
            label="Questionnaire"
            value={about}
            placeholder="any"
            options={[
              { value: "any", label: "any" },
              ...options.questionnaires.map((q) => ({ value: q.id, label: q.title })),
            ]}
            onChange={(v) => setAbout(v === "any" ? any : v)}
          />
          {about && (
            <Pick
              label="Those"
              value={when}
              placeholder={whens[0]!.label}
              options={whens.slice(1)}
              onChange={setWhen}
            />
          )}
          {about && (when === "over" || when === "soon") && (
            <Pick
              label="One return holds for"
              value={String(months)}
              options={monthsToChoose.map((m) => ({ value: String(m), label: `${m} months` }))}
              onChange={(v) => setMonths(Number(v))}
            />
          )}
          {about && when === "soon" && (
            <Pick
              label="Runs out within"
              value={String(days)}
              options={daysToChoose.map((d) => ({ value: String(d), label: `${d} days` }))}
              onChange={(v) => setDays(Number(v))}
            />
          )}
        </Fields>
      </MarginRow>
      <MarginRow margin={`${reachable.length} can be reached`}>
        <Stack $gap="0.5rem">
          {reachable.length === 0 && <p>Nobody is like that. Widen the choice above.</p>}
          {reachable.length > 0 && (
            <Cluster>
              <Button weight="quiet" onPress={() => setWithout(new Set())}>
                All of them
              </Button>
              <Button weight="quiet" onPress={() => setWithout(new Set(reachable.map((p) => p.id)))}>
                None of them
              </Button>
            </Cluster>
          )}
          {reachable.map((person) => (
            <Checkbox
              key={person.id}
              isSelected={writing.includes(person)}
              isDisabled={has(person) && !twice}
              onChange={(on) => {
                const next = new Set(without);
                if (on) next.delete(person.id);
                else next.add(person.id);
                setWithout(next);
              }}
              label={
                <>
                  <bdi>{person.name}</bdi>{" "}
                  <Soft>
                    {person.through ? `by ${person.through}, ` : ""}
                    {person.masked}, reads {languageName(person.language)}
                    {about && person.returned[about]
                      ? `, returned it ${dateWords(person.returned[about], locale)}`
                      : ""}
                    {has(person) ? ", has it open already" : ""}
                  </Soft>
                </>
              }
            />
          ))}
          {already.length > 0 && (
            <Checkbox
              isSelected={twice}
              onChange={setTwice}
              label={
                <>
                  Also to {already.length === 1 ? "the one" : `those ${already.length}`} who{" "}
                  {already.length === 1 ? "has" : "have"} some of it open already <Soft>they get a second packet</Soft>
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
            {lost.map((p, i) => (
              <span key={p.id}>
                {i > 0 ? ", " : ""}
                <Link href={`/people/${p.id}/send`}>
                  <bdi>{p.name}</bdi>
                </Link>
              </span>
            ))}
            . They are left out.
          </p>
        </MarginRow>
      )}
      <MarginRow margin="What will happen">
        <Stack>
          <p>
            {writing.length === 0 || chosen.length === 0
              ? "Choose what and whom first."
              : `${writing.length === 1 ? "One person gets" : `${writing.length} people get`} a letter each: ${byMail} by e-mail, ${byText} by text. Each has a link and a door check of their own, and can open it until ${dateWords(expiresOn, locale)}.`}
          </p>
          {lacking.map((l) => (
            <Notice key={l.title} tone="attention">
              “{l.title}” is not available in {l.languages.join(", ")}:{" "}
              {l.people === 1 ? "one person sees" : `${l.people} people see`} it in the words it was written in.
            </Notice>
          ))}
          <ActionForm
            action={startMailingAction}
            submit={writing.length === 1 ? "Send to one person" : `Send to ${writing.length} people`}
            disabled={writing.length === 0 || chosen.length === 0}
            hidden={{ requestId, clientIds: writing.map((p) => p.id).join(" "), expiresOn, dueOn, line }}
          >
            {ordered.map((id) => (
              <input key={id} type="hidden" name="questionnaireIds" value={id} />
            ))}
            {prefill
              .filter((id) => chosen.includes(id))
              .map((id) => (
                <input key={`p ${id}`} type="hidden" name="prefillIds" value={id} />
              ))}
            {leaflets.map((id) => (
              <input key={`l ${id}`} type="hidden" name="leafletIds" value={id} />
            ))}
          </ActionForm>
        </Stack>
      </MarginRow>
    </Page>
  );
}
