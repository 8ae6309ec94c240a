"use client";
import { dateWords } from "@/core/questionnaire";
import { ActionForm } from "@/ui/kit/form";
import { ListLine } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { Fields, MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { Retention } from "@/usecases/practice";
import { clearDueAction, saveRetentionAction } from "./actions";

const typed = (years: number | undefined): string => (years === undefined ? "" : String(years));

/** For how long what is kept, what is due, and who was erased. */
export function RetentionView({ retention }: { readonly retention: Retention }) {
  const { locale } = useTimeFrame();
  const { rules, due, records, letters, unreturned, erased } = retention;
  return (
    <Stack $gap="1.4rem">
      <MarginRow margin="How long">
        <ActionForm
          action={saveRetentionAction}
          schema={async () => (await import("@/core/forms")).retentionSchema}
          submit="Save"
          weight="plain"
        >
          <Fields $least="12rem">
            <TextField
              name="record"
              label="Records, years after the last contact"
              inputMode="numeric"
              defaultValue={typed(rules.record)}
            />
            <TextField
              name="minorsUntil"
              label="Of minors, not before this age"
              inputMode="numeric"
              defaultValue={typed(rules.minorsUntil)}
            />
            <TextField
              name="letters"
              label="Letters and texts, months"
              inputMode="numeric"
              defaultValue={typed(rules.letters)}
            />
            <TextField
              name="unreturned"
              label="Packets never returned, months"
              inputMode="numeric"
              defaultValue={typed(rules.unreturned)}
            />
          </Fields>
          <Soft>
            What is empty is kept. Which lengths are right is for the law where you work to say. Nothing goes by itself:
            what is due stands here until somebody lets it go.
          </Soft>
        </ActionForm>
      </MarginRow>
      <section>
        <SectionTitle>Due</SectionTitle>
        {records + letters + unreturned === 0 && <MarginRow margin="Nothing">Nothing is due.</MarginRow>}
        {letters > 0 && (
          <MarginRow margin="Letters">
            <ActionForm
              action={clearDueAction}
              submit={`Let ${letters} ${letters === 1 ? "letter" : "letters"} go`}
              weight="danger"
              hidden={{ kind: "letters" }}
            />
          </MarginRow>
        )}
        {unreturned > 0 && (
          <MarginRow margin="Never returned">
            <ActionForm
              action={clearDueAction}
              submit={`Empty ${unreturned} ${unreturned === 1 ? "packet" : "packets"}`}
              weight="danger"
              hidden={{ kind: "unreturned" }}
            />
          </MarginRow>
        )}
        {due.length > 0 && (
          <ul>
            {due.map((one) => (
              <ListLine key={one.id} margin={`Due ${dateWords(one.dueOn, locale)}`}>
                <Link href={`/people/${one.id}/erase`}>
                  <bdi>{one.name}</bdi>
                </Link>{" "}
                <Soft>last contact {dateWords(one.lastContact, locale)}</Soft>
              </ListLine>
            ))}
          </ul>
        )}
        {records > due.length && <Soft>And {records - due.length} more, once these are settled.</Soft>}
      </section>
      {erased.length > 0 && (
        <section>
          <SectionTitle>Erased</SectionTitle>
          <ul>
            {erased.map((one) => (
              <ListLine key={one.at} margin={<Moment at={one.at} />}>
                By <bdi>{one.by}</bdi>: <bdi>{one.reason}</bdi>
              </ListLine>
            ))}
          </ul>
        </section>
      )}
    </Stack>
  );
}
