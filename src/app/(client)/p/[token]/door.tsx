'use client';
import { codeSchema } from '@/core/forms';
import { TextField } from '@/ui/fields';
import { ActionForm } from '@/ui/form';
import { Notice } from '@/ui/notice';
import { checkCodeAction, sendCodeAction } from './actions';

export interface DoorProps {
  readonly token: string;
  readonly codeOut: boolean;
  readonly language: string;
  /** The page was switched to it. */
  readonly switched: boolean;
  readonly words: Readonly<Record<'to' | 'send' | 'again' | 'codeLabel' | 'codeHelp' | 'check' | 'sent' | 'notMine', string>>;
}
/** First the button that sends the code, then the field for it: opening the link alone sends nothing. */
export function Door({ token, codeOut, language, switched, words }: DoorProps) {
  const hidden = { token, language, switched: switched ? 'yes' : '' };
  if (!codeOut)
    return (
      <>
        <p>{words.to}</p>
        <ActionForm action={sendCodeAction} submit={words.send} hidden={hidden} />
        <small>{words.notMine}</small>
      </>
    );
  return (
    <>
      <Notice>{words.sent}</Notice>
      <ActionForm action={checkCodeAction} schema={codeSchema} submit={words.check} hidden={hidden}>
        <TextField name="code" label={words.codeLabel} help={words.codeHelp} inputMode="numeric" autoComplete="one-time-code" maxLength={9} dir="ltr" />
      </ActionForm>
      <ActionForm action={sendCodeAction} submit={words.again} weight="quiet" hidden={hidden} />
    </>
  );
}
