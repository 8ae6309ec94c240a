"use client";
import { useState } from "react";
import { inEights } from "@/core/shared";
import { ActionForm } from "@/ui/kit/form";
import { Checkbox } from "@/ui/kit/choice-fields";
import { FileField } from "@/ui/kit/file-field";
import { ListLine } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";
import { MarginRow, SectionTitle, Soft, Stack } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { Moment } from "@/ui/kit/time";
import type { SigningOffice } from "@/usecases/signing";
import { bringAction, confirmAction, mailsPapersAction } from "./actions";

/** What holds for signatures, and what papers are sealed with. */
export function SignaturesView({ signing }: { readonly signing: SigningOffice }) {
  const [mails, setMails] = useState(signing.mailsPapers);
  return (
    <Stack $gap="0">
      <MarginRow margin="Accepted" tone={signing.confirmed ? "plain" : "attention"}>
        {signing.confirmed ? (
          <p>
            Electronic signatures are accepted where your papers are filed. <Soft>Confirmed by </Soft>
            <bdi>{signing.confirmed.by}</bdi>, <Moment at={signing.confirmed.at} />
          </p>
        ) : (
          <Stack $gap="0.5rem">
            <p>
              Whether a signature on a screen is accepted depends on where you file the paper. Please make sure once.
            </p>
            <ActionForm action={confirmAction} submit="Electronic signatures are accepted there" />
          </Stack>
        )}
      </MarginRow>
      <MarginRow margin="Copies">
        <ActionForm
          action={mailsPapersAction}
          submit="Save"
          weight="plain"
          hidden={{ mailsPapers: mails ? "yes" : "no" }}
        >
          <Checkbox
            isSelected={mails}
            onChange={setMails}
            label="Send who signed their paper as a file in the mail as well"
          />
          <Soft>
            Without it, they open their copy on their page, after a code. A file in a mail can be read by whoever reads
            the mail.
          </Soft>
        </ActionForm>
      </MarginRow>
      <MarginRow margin="Your signature">
        <Link href="/returns/sign">Keep a signature of your own, and sign what waits for you</Link>
      </MarginRow>
      <MarginRow margin="Check">
        <Link href="/returns/check">Check a paper somebody brings</Link>
      </MarginRow>
      <section>
        <SectionTitle>Certificates</SectionTitle>
        {signing.certificates.length === 0 && (
          <MarginRow margin="None yet">One is made by itself when the first paper is sealed.</MarginRow>
        )}
        <ul>
          {signing.certificates.map((one) => (
            <ListLine
              key={one.fingerprint}
              tone={one.endsSoon ? "attention" : "plain"}
              margin={
                <>
                  {one.use === "seal" ? "Seals papers" : "Time-stamps"}
                  {one.current ? "" : ", until replaced"}
                </>
              }
            >
              <Stack $gap="0.1rem">
                <span>
                  <strong>
                    <bdi>{one.subject}</bdi>
                  </strong>{" "}
                  <Soft>
                    {one.brought ? (
                      <>
                        issued by <bdi>{one.issuer}</bdi>
                      </>
                    ) : (
                      "made here"
                    )}
                    , until <Moment at={one.until} as="day" />
                    {one.endsSoon ? ": bring another one" : ""}
                  </Soft>
                </span>
                <Soft as="p" style={{ overflowWrap: "anywhere" }}>
                  SHA-256 {inEights(one.fingerprint)}
                </Soft>
                <a
                  href={`data:application/pkix-cert;base64,${one.der}`}
                  download={`${one.use}.cer`}
                  aria-label={`Certificate ${one.fingerprint.slice(0, 8)} as a file`}
                >
                  As a file
                </a>
              </Stack>
            </ListLine>
          ))}
        </ul>
        {signing.stampsFromElsewhere && <Soft>Time-stamps come from the server that the installation names.</Soft>}
        <MarginRow margin="Your own">
          <ActionForm action={bringAction} submit="Seal with this one" weight="plain">
            <FileField
              name="file"
              label="PKCS #12 file (.p12, .pfx)"
              accept={[".p12", ".pfx", "application/x-pkcs12"]}
            />
            <TextField name="password" type="password" label="Its password" autoComplete="off" />
            <Soft>
              A certificate from an authority that others trust says who you are; the one made here says only that a
              paper comes from here. What was sealed before stays valid.
            </Soft>
          </ActionForm>
        </MarginRow>
      </section>
    </Stack>
  );
}
