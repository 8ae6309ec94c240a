"use client";
import { Link } from "@/ui/kit/link";
import { useState } from "react";
import { relationKinds } from "@/core/forms";
import { languageName, type Id } from "@/core/shared";
import { ButtonLink } from "@/ui/kit/button-link";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { Fields, MarginRow, Page, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { NewRelation } from "../../../send/new-relation";
import { Identity, RecordState, Whose } from "./client-record";
import { changeContactAction, changeRelationAction, endRelationAction } from "./actions";
import type { ReachView as ReachData } from "@/usecases/charting";

type Around = ReachData["around"][number];
export interface ReachViewProps {
  readonly requestId: string;
  readonly reach: ReachData;
}
const ways = [
  { value: "email", label: "E-mail" },
  { value: "text", label: "Text" },
];
const relationSchema = async () => {
  const { newRelationSchema, writeBySchema } = await import("@/core/forms");
  return newRelationSchema.concat(writeBySchema);
};

/** Where letters, texts and door codes go: to the client, and to those around them. */
export function ReachView({ reach, requestId }: ReachViewProps) {
  const { clientId } = reach;
  return (
    <Page
      title={
        <>
          Details of <bdi>{reach.name}</bdi>
        </>
      }
      margin={reach.chart ? <Link href={`/people/${clientId}`}>Chart</Link> : "Letters, texts and codes"}
      actions={
        reach.archivedAt === null &&
        reach.merged.every(({ gone }) => !gone) && (
          <ButtonLink href={`/people/${clientId}/send`}>Send questionnaires</ButtonLink>
        )
      }
    >
      {reach.isTest && (
        <MarginRow margin="Test client" tone="attention">
          Made up, to try things on: in no count and no mailing.
        </MarginRow>
      )}
      <MarginRow margin="Name">
        <Identity reach={reach} />
      </MarginRow>
      <MarginRow margin="Contact">
        <Stack>
          {reach.through && (
            <p>
              Under 18: letters go to <bdi>{reach.through}</bdi>.
            </p>
          )}
          <Own reach={reach} />
        </Stack>
      </MarginRow>
      <SectionTitle>Relations</SectionTitle>
      {reach.around.map((relation) => (
        <MarginRow key={relation.id} margin={<>{relation.kind}</>}>
          <Stack $gap="0.5rem">
            <span>
              <strong>
                <bdi>
                  {relation.firstName} {relation.lastName}
                </bdi>
              </strong>{" "}
              <Soft>
                {[relation.email, relation.phone]
                  .filter((w) => w !== "")
                  .map((w) => (
                    <bdi key={w}>{w} </bdi>
                  ))}
              </Soft>
            </span>
            <details>
              <summary>Change {relation.firstName}</summary>
              <Other clientId={clientId} person={relation} />
            </details>
            <details>
              <summary>{relation.firstName} is no longer a contact</summary>
              <Stack $gap="0.6rem">
                <p>
                  Every link and page of {relation.firstName}’s for this client is closed at once, and nothing goes
                  there again. What {relation.firstName} answered stays, under that name.
                </p>
                <ActionForm
                  action={endRelationAction}
                  submit={`End for ${relation.firstName}`}
                  weight="danger"
                  hidden={{ clientId, relationId: relation.id }}
                />
              </Stack>
            </details>
          </Stack>
        </MarginRow>
      ))}
      <MarginRow margin={reach.around.length === 0 ? "Nobody yet" : "New relation"}>
        <NewRelation key={reach.around.length} clientId={clientId} requestId={requestId} />
      </MarginRow>
      {reach.ended.length > 0 && (
        <MarginRow margin="No longer">
          {reach.ended.map((r, i) => (
            <div key={i}>
              <bdi>{r.name}</bdi>, <Soft>{r.kind}</Soft>
            </div>
          ))}
        </MarginRow>
      )}
      <Whose reach={reach} />
      <RecordState reach={reach} />
    </Page>
  );
}
const changes =
  "A code that is out stops working when the address changes. Letters already sent stay where they went: if one went astray, send a fresh link from its packet.";
function Own({ reach }: { readonly reach: ReachData }) {
  const { clientId, own, language: now } = reach;
  const [prefers, setPrefers] = useState<string>(own.prefers);
  const [language, setLanguage] = useState(now);
  return (
    <ActionForm
      action={changeContactAction}
      schema={async () => (await import("@/core/forms")).clientContactSchema}
      submit="Save"
      hidden={{ clientId, prefers, language, seen: own.seen }}
    >
      <Fields $least="13rem">
        <TextField name="email" label="E-mail" type="email" dir="ltr" defaultValue={own.email} />
        <TextField name="phone" label="Phone" type="tel" dir="ltr" defaultValue={own.phone} />
        <Pick label="Preferred contact" value={prefers} options={ways} onChange={setPrefers} />
        <Pick
          label="Language"
          value={language}
          options={[...new Set([now, ...reach.languages])].map((l) => ({ value: l, label: languageName(l) }))}
          onChange={setLanguage}
        />
        <TextField
          name="zone"
          label="Time zone"
          optional="(if not the practice’s)"
          placeholder={reach.practiceZone}
          defaultValue={reach.zone}
          dir="ltr"
        />
      </Fields>
      <Soft>{changes} The chart keeps what stood there before.</Soft>
    </ActionForm>
  );
}
function Other({ clientId, person }: { readonly clientId: Id<"Client">; readonly person: Around }) {
  const [kind, setKind] = useState<string>(person.kind);
  const [prefers, setPrefers] = useState<string>(person.prefers);
  return (
    <ActionForm
      action={changeRelationAction}
      schema={relationSchema}
      submit={`Save for ${person.firstName}`}
      weight="plain"
      hidden={{ clientId, relationId: person.id, kind, prefers, seen: person.seen }}
    >
      <Fields $least="13rem">
        <TextField name="firstName" label="First name" defaultValue={person.firstName} />
        <TextField name="lastName" label="Last name" optional="(optional)" defaultValue={person.lastName} />
        <Pick
          label="Relation to the client"
          value={kind}
          options={relationKinds.map((k) => ({ value: k, label: k }))}
          onChange={setKind}
        />
        <TextField name="email" label="E-mail" type="email" dir="ltr" defaultValue={person.email} />
        <TextField name="phone" label="Phone" type="tel" dir="ltr" defaultValue={person.phone} />
        <Pick label="Preferred contact" value={prefers} options={ways} onChange={setPrefers} />
      </Fields>
      <Soft>{changes}</Soft>
    </ActionForm>
  );
}
