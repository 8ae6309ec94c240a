import { checkAnswers, place, sectionsOf, type AnswerProblem, type Answers, type Placed, type Questionnaire, type Section } from '@/core/questionnaire';
import type { Id, Instant } from '@/core/shared';

export interface FillPart {
  readonly id: Id<'Part'>;
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
  readonly signedAt: Instant | undefined;
}
export type Step =
  | { readonly kind: 'section'; readonly part: Id<'Part'>; readonly section: Section }
  | { readonly kind: 'sign'; readonly part: Id<'Part'> }
  | { readonly kind: 'review' };

/** One section a page, each questionnaire's signature after its sections, and the review last. */
export const stepsOf = (parts: readonly FillPart[]): Step[] => [
  ...parts.flatMap((part): Step[] => [
    ...sectionsOf(part.questionnaire).map((section): Step => ({ kind: 'section', part: part.id, section })),
    ...(part.questionnaire.signed ? [{ kind: 'sign', part: part.id } as const] : []),
  ]),
  { kind: 'review' },
];

/** The placed items of one section. */
export function placedIn(questionnaire: Questionnaire, answers: Answers, section: Section): Placed[] {
  const ids = new Set(section.items.map((i) => i.linkId));
  return place(questionnaire, answers).filter((p) => ids.has(p.item.linkId));
}
export const keysIn = (placed: readonly Placed[]): string[] => placed.flatMap((p) => [p.key, ...keysIn(p.children)]);

/** What keeps this section from being complete, in reading order. */
export function problemsIn(questionnaire: Questionnaire, answers: Answers, section: Section): AnswerProblem[] {
  const keys = new Set(keysIn(placedIn(questionnaire, answers, section)));
  return checkAnswers(questionnaire, answers).filter((p) => keys.has(p.key));
}
export const isShown = (placed: readonly Placed[]): boolean => placed.some((p) => p.shown);

/** The page element of a question, for jumping to it. */
export const elementId = (partId: string, key: string): string => `q-${partId.slice(0, 8)}-${key.replace(/[^\w-]/g, '_')}`;

const reasonKeys = {
  missing: 'missing', 'not-an-option': 'notAnOption', 'too-long': 'tooLong', 'too-short': 'tooShort', 'too-small': 'tooSmall', 'too-large': 'tooLarge', 'too-many-decimals': 'decimals',
  pattern: 'pattern', email: 'email', phone: 'phone', 'web-address': 'webAddress', 'no-such-date': 'noSuchDate', 'only-one': 'onlyOne', exclusive: 'exclusive', 'needs-a-row': 'needsARow',
  'wrong-kind': 'wrongKind', 'not-asked': 'notAsked',
} as const;
export type ProblemKey = (typeof reasonKeys)[AnswerProblem['reason']];
export const problemKey = (problem: AnswerProblem): ProblemKey => reasonKeys[problem.reason];
