import { ButtonLink } from '@/ui/button';
import { Doorstep } from '@/ui/doorstep';

export default function NotFound() {
  return (
    <Doorstep>
      <h1>Nothing here</h1>
      <p>This address leads nowhere, or to something that is not in your practice.</p>
      <div><ButtonLink href="/day">To the Day sheet</ButtonLink></div>
    </Doorstep>
  );
}
