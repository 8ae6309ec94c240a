"use client";
import { Link } from "@/ui/link";
import { useState, useTransition } from "react";
import styled from "styled-components";
import { dateWords } from "@/core/questionnaire";
import { clientLanguages } from "@/i18n/languages";
import { sendingOrder, type DoorWay, type LinkRole, type PacketState, type StandingLine } from "@/core/packet";
import type { QuestionnaireKind } from "@/core/questionnaire";
import { directionOf, languageName, type Id, type Instant } from "@/core/shared";
import { Button } from "@/ui/button";
import { DateField } from "@/ui/date-field";
import { Checkbox, CheckboxGroup, TextField } from "@/ui/fields";
import { contactSchema } from "@/core/forms";
import { ActionForm } from "@/ui/form";
import { Notice } from "@/ui/notice";
import { Cluster, Fields, MarginRow, Page, Soft, Stack } from "@/ui/page";
import { Pick } from "@/ui/pick";
import { Moment, useTimeFrame } from "@/ui/time";
import { doorWayWords } from "../door-words";
import { NewRelation } from "./new-relation";
import { TextCount } from "../text-count";
import { addContactAction, previewAction, sendAction, testAction, type Preview, type TestState } from "./actions";

export interface SendViewProps {
  readonly requestId: string;
  /** A questionnaire somebody came with. */
  readonly asked: string | undefined;
  readonly options: {
    readonly visit:
      | {
          readonly id: Id<"Visit">;
          readonly startsAt: Instant;
          readonly visitType: string;
          readonly practitioner: string;
        }
      | undefined;
    readonly clientId: Id<"Client">;
    readonly clientName: string;
    readonly recipient: {
      readonly firstName: string;
      readonly name: string;
      readonly relation: string | undefined;
      readonly channel: "email" | "text" | undefined;
      readonly masked: string | undefined;
    };
    readonly door: DoorWay;
    readonly expiresOn: string;
    readonly languages: readonly string[];
    readonly questionnaires: readonly {
      readonly id: Id<"Questionnaire">;
      readonly title: string;
      readonly kind: QuestionnaireKind;
      readonly description: string;
      readonly usual: boolean;
      readonly languages: readonly string[];
      readonly onFile: number;
    }[];
    readonly others: readonly {
      readonly relationId: Id<"Relation"> | null;
      readonly name: string;
      readonly kind: string;
      readonly masked: string | undefined;
    }[];
    readonly leaflets: readonly { readonly id: Id<"Leaflet">; readonly title: string }[];
    readonly standing: readonly {
      readonly id: Id<"StandingPacket">;
      readonly title: string;
      readonly questionnaires: readonly StandingLine[];
      readonly leaflets: readonly Id<"Leaflet">[];
      readonly forThis: boolean;
    }[];
    readonly earlier: readonly {
      readonly id: Id<"Packet">;
      readonly state: PacketState;
      readonly createdAt: Instant;
    }[];
  };
}
const proof: Readonly<Record<DoorWay, string>> = {
  contact: "proves who they are with a code sent to the same place",
  email: "proves who they are with a code sent by e-mail",
  text: "proves who they are with a code sent by text",
  details: "proves who they are by details that both of you know",
  "read-out": "proves who they are with a code that you read out to them",
  none: "gets in without any proof",
};
export function SendView({ options, requestId, asked }: SendViewProps) {
  const { recipient, visit } = options;
  const { locale } = useTimeFrame();
  const usual = asked ? undefined : options.standing.find((s) => s.forThis);
  const there = (ids: readonly string[]): string[] =>
    ids.filter((id) => options.questionnaires.some((q) => q.id === id));
  const [chosen, setChosen] = useState(
    usual
      ? there(usual.questionnaires.map((q) => q.id))
      : options.questionnaires.filter((q) => q.usual || q.id === asked).map((q) => q.id as string),
  );
  const [onFile, setOnFile] = useState<readonly string[]>(
    usual ? usual.questionnaires.filter((q) => q.prefill).map((q) => q.id) : [],
  );
  const [standing, setStanding] = useState<string>(usual?.id ?? "");
  const [leaflets, setLeaflets] = useState<readonly string[]>(usual?.leaflets ?? []);
  const [repeats, setRepeats] = useState(false);
  const [people, setPeople] = useState<Readonly<Record<string, LinkRole>>>({});
  const take = (id: string): void => {
    const taken = options.standing.find((s) => s.id === id);
    setStanding(id);
    if (!taken) return;
    setChosen(there(taken.questionnaires.map((q) => q.id)));
    setOnFile(taken.questionnaires.filter((q) => q.prefill).map((q) => q.id));
    setLeaflets(taken.leaflets);
  };
  const [expiresOn, setExpiresOn] = useState(options.expiresOn);
  const [dueOn, setDueOn] = useState("");
  const [language, setLanguage] = useState(options.languages[0]!);
  const [line, setLine] = useState("");
  const [door, setDoor] = useState(options.door);
  const who = recipient.relation ? `${recipient.name}, ${recipient.relation},` : recipient.firstName;
  const target = visit ? { visitId: visit.id as string } : { clientId: options.clientId as string };
  const picked = options.questionnaires.filter((q) => chosen.includes(q.id));
  const main = (tag: string): string => tag.split("-")[0]!.toLowerCase();
  const lacking = picked.filter((q) => !q.languages.some((l) => main(l) === main(language)));
  const fillable = picked.filter((q) => q.onFile > 0);
  const ordered = sendingOrder(
    chosen,
    (options.standing.find((s) => s.id === standing)?.questionnaires ?? []).map((q) => q.id),
    options.questionnaires.map((q) => q.id),
  );
  const fields = (
    <>
      {ordered.map((id) => (
        <input key={id} type="hidden" name="questionnaireIds" value={id} />
      ))}
      {language === options.languages[0] ? null : <input type="hidden" name="language" value={language} />}
      <input type="hidden" name="line" value={line} />
    </>
  );
  const sending = {
    requestId,
    ...target,
    expiresOn,
    dueOn,
    door: door === options.door ? "" : door,
    repeats: repeats ? "yes" : "",
  };
  const more = (
    <>
      {onFile
        .filter((id) => chosen.includes(id))
        .map((id) => (
          <input key={`file ${id}`} type="hidden" name="prefillIds" value={id} />
        ))}
      {leaflets.map((id) => (
        <input key={`leaflet ${id}`} type="hidden" name="leafletIds" value={id} />
      ))}
      {Object.entries(people).map(([id, role]) => (
        <input key={`person ${id}`} type="hidden" name="people" value={`${role} ${id}`} />
      ))}
    </>
  );
  const also = options.others.filter((o) => people[o.relationId ?? ""]);
  return (
    <Page
      title={
        <>
          Send to <bdi>{options.clientName}</bdi>
        </>
      }
      margin={
        visit ? (
          <>
            <Moment at={visit.startsAt} />
            <br />
            {visit.visitType}
            <br />
            with {visit.practitioner}
          </>
        ) : (
          "without a visit"
        )
      }
    >
      {options.earlier.length > 0 && (
        <MarginRow margin="Sent before">
          <Notice tone="attention">
            This visit already has a packet:{" "}
            {options.earlier.map((p) => (
              <Link key={p.id} href={`/packets/${p.id}`}>
                sent <Moment at={p.createdAt} />
              </Link>
            ))}
            . Sending again makes a second one.
          </Notice>
        </MarginRow>
      )}
      {options.standing.length > 0 && (
        <MarginRow margin="Standing packet">
          <div style={{ maxInlineSize: "24rem" }}>
            <Pick
              label="Begin with a standing packet"
              value={standing}
              placeholder="none, choose below"
              options={options.standing.map((s) => ({
                value: s.id,
                label: s.forThis ? `${s.title}, for this kind of visit` : s.title,
              }))}
              onChange={take}
            />
          </div>
        </MarginRow>
      )}
      <MarginRow margin={`${chosen.length} of ${options.questionnaires.length} chosen`}>
        {options.questionnaires.length === 0 ? (
          <p>
            No questionnaire is in use yet. <Link href="/library">Put one in use in the Library</Link> first.
          </p>
        ) : (
          <CheckboxGroup
            label="What to send, in this order"
            value={chosen}
            onChange={setChosen}
            options={options.questionnaires.map((q) => ({
              value: q.id,
              label: q.title,
              note: `${q.kind}${q.description ? `. ${q.description}` : ""}`,
            }))}
          />
        )}
      </MarginRow>
      <MarginRow margin="How">
        <Stack>
          <Fields $least="11rem">
            <DateField label="Open until" value={expiresOn} onChange={setExpiresOn} locale={locale} />
            <DateField label="Wanted by" optional="(if you like)" value={dueOn} onChange={setDueOn} locale={locale} />
            <Pick
              label="They open it with"
              value={door}
              options={Object.entries(doorWayWords).map(([value, label]) => ({ value, label }))}
              onChange={(v) => setDoor(v as DoorWay)}
            />
            <Pick
              label="Language"
              value={language}
              options={[...new Set([...options.languages, ...clientLanguages])].map((l) => ({
                value: l,
                label: `${languageName(l)}${l === options.languages[0] ? ", theirs" : ""}`,
              }))}
              onChange={setLanguage}
            />
          </Fields>
          {lacking.length > 0 && (
            <Notice tone="attention">
              Not available in {languageName(language)}: {lacking.map((q) => `“${q.title}”`).join(", ")}.{" "}
              {lacking.length === 1 ? "It is" : "They are"} shown in the words{" "}
              {lacking.length === 1 ? "it was" : "they were"} written in.
            </Notice>
          )}
          {fillable.length > 0 && (
            <Stack $gap="0.4rem" role="group" aria-label="Begun with what is on file">
              {fillable.map((questionnaire) => (
                <Checkbox
                  key={questionnaire.id}
                  isSelected={onFile.includes(questionnaire.id)}
                  onChange={(on) =>
                    setOnFile(on ? [...onFile, questionnaire.id] : onFile.filter((id) => id !== questionnaire.id))
                  }
                  label={
                    <>
                      Begin “{questionnaire.title}” with what is on file{" "}
                      <Soft>
                        {questionnaire.onFile === 1 ? "one answer" : `${questionnaire.onFile} answers`}, to be said
                        right or changed
                      </Soft>
                    </>
                  }
                />
              ))}
            </Stack>
          )}
          {options.leaflets.length > 0 && (
            <CheckboxGroup
              label="Leaflets that go with it"
              value={[...leaflets]}
              onChange={setLeaflets}
              options={options.leaflets.map((l) => ({ value: l.id, label: l.title }))}
            />
          )}
          <Checkbox
            isSelected={repeats}
            onChange={setRepeats}
            label={
              <>
                Each session by the same link{" "}
                <Soft>opened on another day after it came back, it asks again, until the last day above</Soft>
              </>
            }
          />
          <TextField
            label="A line to them"
            optional="(if you like)"
            help="Stands in the message, so nothing about their health."
            value={line}
            onChange={setLine}
            maxLength={500}
            long
          />
        </Stack>
      </MarginRow>
      <MarginRow margin="With whom">
        <Stack $gap="0.6rem">
          {options.others.map((option) => (
            <Cluster key={option.relationId ?? "client"} $gap="0.4rem 1rem">
              <Checkbox
                isSelected={people[option.relationId ?? ""] !== undefined}
                isDisabled={!option.masked}
                onChange={(on) =>
                  setPeople(
                    on ? { ...people, [option.relationId ?? ""]: "fills" } : without(people, option.relationId ?? ""),
                  )
                }
                label={
                  <>
                    <bdi>{option.name}</bdi>, {option.kind} <Soft>{option.masked ?? "cannot be reached"}</Soft>
                  </>
                }
              />
              {people[option.relationId ?? ""] && (
                <Pick
                  bare
                  small
                  label={`What ${option.name} does`}
                  value={people[option.relationId ?? ""]!}
                  options={[
                    { value: "fills", label: "fills in" },
                    { value: "reads", label: "reads only" },
                  ]}
                  onChange={(role) => setPeople({ ...people, [option.relationId ?? ""]: role as LinkRole })}
                />
              )}
            </Cluster>
          ))}
          <Soft>
            {options.others.length === 0 ? "Nobody else is on file for them. " : ""}Who is added fills in the same copy,
            by a link and a door check of their own.
          </Soft>
          <NewRelation key={options.others.length} clientId={options.clientId} requestId={requestId} />
          <Link href={`/people/${options.clientId}/reach`}>Change how they are reached</Link>
        </Stack>
      </MarginRow>
      <MarginRow margin="What will happen">
        {recipient.channel === undefined ? (
          <Stack>
            <Notice tone="attention">
              <strong>{recipient.name} cannot be reached.</strong> There is no e-mail and no phone on file. Add one
              here; make the packet and give them its link yourself, reading a code out to them; make it and hand this
              device over to them when they are here; or print the questionnaires for the visit:{" "}
              {picked.map((q) => (
                <a key={q.id} href={`/api/questionnaires/${q.id}/blank`}>
                  {q.title}{" "}
                </a>
              ))}
            </Notice>
            <ActionForm
              action={addContactAction}
              schema={contactSchema}
              submit="Add it"
              weight="plain"
              hidden={{ ...target, clientId: options.clientId }}
            >
              <Fields $least="11rem">
                <TextField name="email" label="E-mail" type="email" dir="ltr" />
                <TextField name="phone" label="Phone" type="tel" dir="ltr" />
              </Fields>
            </ActionForm>
            <ActionForm
              action={sendAction}
              submit="Make it, and give them the link yourself"
              weight="plain"
              disabled={chosen.length === 0}
              hidden={{ ...sending, by: "link" }}
            >
              {fields}
              {more}
            </ActionForm>
          </Stack>
        ) : (
          <Stack>
            <div>
              <p>
                <bdi>{who}</bdi> gets {recipient.channel === "email" ? "an e-mail at" : "a text to"}{" "}
                <Strong>{recipient.masked}</Strong> in {languageName(language)}, can open it until{" "}
                <Strong>{dateWords(expiresOn, locale)}</Strong>, and {proof[door]}.
              </p>
              {also.length > 0 && (
                <p>
                  {also.map((o) => (
                    <span key={o.name}>
                      <bdi>{o.name}</bdi> {people[o.relationId ?? ""] === "reads" ? "may read it" : "fills it in too"},
                      by a link to <Strong>{o.masked}</Strong>.{" "}
                    </span>
                  ))}
                </p>
              )}
              <Soft>Nothing about their health stands in the message.</Soft>
              {door === "none" && (
                <Notice tone="attention">
                  <strong>Whoever has the link gets in.</strong> If it went astray, a stranger could answer and read. It
                  is written in the journal.
                  {onFile.length > 0 ? " What begins with what is on file asks for a code all the same." : ""}
                </Notice>
              )}
            </div>
            <SeeLetter
              input={{
                ...target,
                expiresOn,
                ...(language === options.languages[0] ? {} : { language }),
                ...(line.trim() ? { line } : {}),
              }}
              language={language}
            />
            <ActionForm
              action={sendAction}
              submit={`Send ${chosen.length === 1 ? "it" : `all ${chosen.length}`} to ${recipient.firstName}`}
              disabled={chosen.length === 0}
              hidden={sending}
            >
              {fields}
              {more}
            </ActionForm>
            <TestForm disabled={chosen.length === 0} hidden={target}>
              {fields}
            </TestForm>
          </Stack>
        )}
      </MarginRow>
    </Page>
  );
}

const without = (people: Readonly<Record<string, LinkRole>>, id: string): Readonly<Record<string, LinkRole>> =>
  Object.fromEntries(Object.entries(people).filter(([key]) => key !== id));

/** The letter with this person's name in it, asked for when somebody wants to see it. */
function SeeLetter({
  input,
  language,
}: {
  readonly input: Readonly<Record<string, string>>;
  readonly language: string;
}) {
  const [seen, setSeen] = useState<{ readonly of: string; readonly letter: Preview | string }>();
  const [busy, start] = useTransition();
  const of = JSON.stringify(input);
  const letter = seen?.of === of ? seen.letter : undefined;
  if (letter === undefined)
    return (
      <div>
        <Button
          weight="quiet"
          busy={busy}
          onPress={() =>
            start(async () => {
              setSeen({ of, letter: await previewAction(input) });
            })
          }
        >
          See the message
        </Button>
      </div>
    );
  if (typeof letter === "string") return <Notice tone="attention">{letter}</Notice>;
  return (
    <Stack $gap="0.5rem">
      <Letter lang={language} dir={directionOf(language)}>
        {letter.subject ? (
          <strong>
            {letter.subject}
            {"\n\n"}
          </strong>
        ) : null}
        {letter.body}
      </Letter>
      {letter.channel === "text" && <TextCount text={letter.body} />}
    </Stack>
  );
}

function TestForm({
  disabled,
  hidden,
  children,
}: {
  readonly disabled: boolean;
  readonly hidden: Readonly<Record<string, string>>;
  readonly children: React.ReactNode;
}) {
  const [sent, setSent] = useState<string>();
  return (
    <>
      <ActionForm
        action={async (before, data) => {
          const answer: TestState = await testAction(before, data);
          setSent(answer.to);
          return answer;
        }}
        submit="Send a test to myself"
        weight="quiet"
        disabled={disabled}
        hidden={hidden}
      >
        {children}
      </ActionForm>
      {sent && (
        <Notice tone="settled">
          A test is on its way to {sent}. <Link href="/post-room">Post room</Link>
        </Notice>
      )}
    </>
  );
}
const Letter = styled.div`
  white-space: pre-wrap;
  max-width: 36rem;
  padding: 1rem 1.25rem;
  background: var(--leaf);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
  overflow-wrap: anywhere;
`;
const Strong = styled.strong`
  font-weight: 600;
  white-space: nowrap;
`;
