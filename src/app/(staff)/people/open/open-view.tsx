"use client";
import { useState } from "react";
import { ActionForm } from "@/ui/kit/form";
import { Fields, MarginRow, Page, Soft } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { BirthDate } from "../birth-date";
import { openClientAction } from "./actions";

/** The way to somebody who is not one's own client: by name and birth date, with a reason. */
export function OpenView() {
  const [birthDate, setBirthDate] = useState("");
  return (
    <Page title="Open a colleague’s client">
      <MarginRow margin="Who and why">
        <ActionForm
          action={openClientAction}
          schema={async () => (await import("@/core/forms")).openClientSchema}
          submit="Open for a day"
          hidden={{ birthDate }}
        >
          <Fields $least="13rem">
            <TextField name="firstName" label="First name" />
            <TextField name="lastName" label="Last name" />
            <BirthDate value={birthDate} onChange={setBirthDate} />
          </Fields>
          <TextField name="reason" label="Reason" help="The owners and whose client it is can read it." long />
          <Soft as="p">
            They are told at once, without a name in the letter. After a day the client is closed to you again.
          </Soft>
        </ActionForm>
      </MarginRow>
    </Page>
  );
}
