import { ButtonLink } from '@/ui/button';
import { MarginRow, Page } from '@/ui/page';

export default function NotYours() {
  return (
    <Page title="Not open to your role">
      <MarginRow margin="Why">
        <p>Answers, charts and notes are open to owners and practitioners. Ask an owner if your work needs them.</p>
        <p style={{ marginBlockStart: '1rem' }}><ButtonLink href="/day">Back to the Day sheet</ButtonLink></p>
      </MarginRow>
    </Page>
  );
}
