"use client";
import { useState } from "react";
import { clockTime24 } from "@/i18n/moments";
import { ButtonLink } from "@/ui/kit/button-link";
import { RadioGroup } from "@/ui/kit/choice-fields";
import { ActionForm } from "@/ui/kit/form";
import { Link } from "@/ui/kit/link";
import { useLiveReload } from "@/ui/kit/live";
import { Cluster, MarginRow, Page, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { VisitStart as Start } from "@/usecases/measures";
import type { VisitChoices, VisitView } from "@/usecases/scheduling";
import { beginNoteAction } from "../../notes/actions";
import { cancelVisitAction, moveVisitAction, restoreVisitAction } from "../actions";
import { VisitTime } from "../visit-time";
import { VisitStart } from "./visit-start";

export interface VisitPageViewProps {
  readonly visit: VisitView;
  readonly practitioners: VisitChoices["practitioners"];
  readonly mayNote: boolean;
  /** None for who may not read answers, and of a visit that does not take place. */
  readonly start: Start | undefined;
  readonly requestId: string;
}
/** One visit: when, with whom, and what can become of it. */
export function VisitPageView({ visit, practitioners, mayNote, start, requestId }: VisitPageViewProps) {
  // What is answered in the waiting room stands here at once.
  useLiveReload();
  return (
    <Page
      title={
        <>
          Visit of <bdi>{visit.clientName}</bdi>
        </>
      }
      margin={<Link href={`/day?on=${visit.day}`}>Day sheet of that day</Link>}
      actions={
        visit.cancelled ? undefined : (
          <Cluster>
            {mayNote && (
              <ActionForm
                action={beginNoteAction}
                submit="Begin the note"
                weight="primary"
                hidden={{ visitId: visit.id, requestId }}
              />
            )}
            <ButtonLink href={`/visits/${visit.id}/send`}>Send questionnaires</ButtonLink>
          </Cluster>
        )
      }
    >
      <MarginRow margin={<Moment at={visit.startsAt} />}>
        <strong>{visit.visitType}</strong>
        {` with ${visit.practitioner}`}, {visit.minutes} minutes{visit.room ? `, ${visit.room}` : ""}
      </MarginRow>
      {start && <VisitStart start={start} visitId={visit.id} />}
      {visit.cancelled ? (
        <MarginRow margin="Cancelled">
          <Stack>
            <p>
              By {visit.cancelled.by === "client" ? "the client" : "the practice"}, <Moment at={visit.cancelled.at} />.
              Its time is free.
            </p>
            <ActionForm
              action={restoreVisitAction}
              submit="Take it up again"
              weight="plain"
              hidden={{ visitId: visit.id }}
            />
          </Stack>
        </MarginRow>
      ) : (
        <>
          <MarginRow margin="Move">
            <Move visit={visit} practitioners={practitioners} />
          </MarginRow>
          <MarginRow margin="Cancel">
            <Cancel visit={visit} />
          </MarginRow>
        </>
      )}
    </Page>
  );
}
function Move({ visit, practitioners }: Pick<VisitPageViewProps, "visit" | "practitioners">) {
  const frame = useTimeFrame();
  const [staffId, setStaffId] = useState<string>(visit.staffId);
  return (
    <ActionForm
      action={moveVisitAction}
      schema={async () => (await import("@/core/forms")).visitTimeSchema}
      submit="Move visit"
      weight="plain"
      hidden={{ visitId: visit.id, staffId }}
    >
      <VisitTime
        day={visit.day}
        time={clockTime24(visit.startsAt, frame)}
        minutes={visit.minutes}
        room={visit.remote ? undefined : visit.room}
      >
        <Pick
          label="With"
          value={staffId}
          options={practitioners.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setStaffId}
        />
      </VisitTime>
    </ActionForm>
  );
}
function Cancel({ visit }: { readonly visit: VisitView }) {
  const [by, setBy] = useState("");
  return (
    <details>
      <summary>Cancel this visit</summary>
      <ActionForm
        action={cancelVisitAction}
        submit="Cancel visit"
        weight="danger"
        disabled={by === ""}
        hidden={{ visitId: visit.id, by }}
      >
        <RadioGroup
          label="Who cancelled"
          value={by}
          options={[
            { value: "client", label: "The client" },
            { value: "practice", label: "The practice" },
          ]}
          onChange={setBy}
          inline
        />
      </ActionForm>
    </details>
  );
}
