import { ButtonLink } from "@/ui/kit/button-link";
import { MarginRow, Page } from "@/ui/kit/page";

export default function NotYours() {
  return (
    <Page title="Not open to you">
      <MarginRow margin="Why">
        <p>
          Answers, charts and notes are open to owners and practitioners. A questionnaire may be shared with you to
          send, but not to change. Ask an owner if your work needs it.
        </p>
        <p style={{ marginBlockStart: "1rem" }}>
          <ButtonLink href="/day">Back to the Day sheet</ButtonLink>
        </p>
      </MarginRow>
    </Page>
  );
}
