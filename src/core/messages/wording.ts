import { fail, ok, type Result } from '../shared';

/** Placeholders a wording may use, and nothing else. */
export const placeholders = ['client.firstName', 'recipient.firstName', 'practitioner.name', 'visit.when', 'link', 'expires', 'practice.name', 'code'] as const;
export type Placeholder = (typeof placeholders)[number];

export interface Wording {
  readonly subject: string;
  readonly body: string;
}
export type WordingError =
  | { readonly reason: 'unknown-placeholder'; readonly names: readonly string[] }
  | { readonly reason: 'missing'; readonly names: readonly Placeholder[] };

const pattern = /\{\{\s*([^{}]*?)\s*\}\}/g;

/** Fills a wording. Fails when it names what does not exist, or lacks a placeholder the message is pointless without. */
export function fillWording(wording: Wording, values: Partial<Record<Placeholder, string>>, mustHave: readonly Placeholder[]): Result<Wording, WordingError> {
  const used = [...`${wording.subject} ${wording.body}`.matchAll(pattern)].map((m) => m[1] ?? '');
  const unknown = used.filter((name) => !(placeholders as readonly string[]).includes(name) || values[name as Placeholder] === undefined);
  if (unknown.length > 0) return fail({ reason: 'unknown-placeholder', names: [...new Set(unknown)] });
  const missing = mustHave.filter((name) => ![...wording.body.matchAll(pattern)].some((m) => m[1] === name));
  if (missing.length > 0) return fail({ reason: 'missing', names: missing });
  const fill = (text: string): string => text.replace(pattern, (_, name: string) => values[name as Placeholder] ?? '');
  return ok({ subject: fill(wording.subject), body: fill(wording.body) });
}

/** The practice's starting wordings. Health data never stands in them: not even the questionnaires' titles. */
export const startingWordings = {
  packetEmail: {
    subject: 'Before your visit at {{practice.name}}',
    body: 'Hello {{recipient.firstName}},\n\nbefore the visit with {{practitioner.name}} on {{visit.when}}, please answer some questions for us. You can stop at any time and go on later; what you typed is kept.\n\nOpen your personal page:\n{{link}}\n\nWe will send you a code first, to be sure it is you. The page is open until {{expires}}.\n\n{{practice.name}}',
  },
  packetText: { subject: '', body: '{{practice.name}}: please answer some questions before {{visit.when}}. Your page, until {{expires}}: {{link}}' },
  codeEmail: {
    subject: 'Your code for {{practice.name}}',
    body: 'Hello {{recipient.firstName}},\n\nyour code is {{code}}\n\nIt works for 10 minutes. We never ask for it by phone or e-mail. If you did not ask for it, you need not do anything.\n\n{{practice.name}}',
  },
  codeText: { subject: '', body: '{{code}} is your code for {{practice.name}}. It works for 10 minutes.' },
  lockedEmail: {
    subject: 'A personal page was locked',
    body: 'Hello {{practitioner.name}},\n\na personal page was locked after five wrong codes. Nobody got in. Sign in to {{practice.name}} to see whose it is and to send a fresh link:\n{{link}}',
  },
} as const satisfies Record<string, Wording>;
