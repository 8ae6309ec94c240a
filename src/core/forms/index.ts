import { object, string } from 'yup';
import { questionnaireKinds } from '../questionnaire';

/** Forms that the browser checks before the server does, from one schema each. */
export const signInSchema = object({
  email: string().trim().email('This is not an e-mail address.').max(254).required('Type your e-mail address.'),
  password: string().max(200).required('Type your password.'),
});
/** A code from an authenticator app or a door check; blanks between the digits do not matter. */
export const codeSchema = object({
  code: string().transform((v: string) => v.replace(/\s/g, '')).matches(/^\d{6}$/, 'The code has six digits.').required('Type the six digits.'),
});
export const passwordSchema = object({ password: string().max(200).required('Type your password.') });
export const signSchema = object({
  name: string().trim().min(2, 'Type your full name.').max(120).required('Type your full name.'),
  path: string().max(60_000).default(''),
});
export const newQuestionnaireSchema = object({
  title: string().trim().max(200, 'That is long for a title.').required('Type a title.'),
  kind: string().oneOf(questionnaireKinds).required('Choose a kind.'),
});
