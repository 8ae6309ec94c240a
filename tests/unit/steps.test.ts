import { describe, expect, it } from 'vitest';
import { elementId, isShown, keysIn, placedIn, problemKey, problemsIn, stepsOf, type FillPart } from '../../src/ui/fill/steps';
import { clientWords, problemWords } from '../../src/i18n/client-words';
import { forClient, noAnswers, sectionsOf, type Answers } from '../../src/core/questionnaire';
import type { Id } from '../../src/core/shared';
import { fromRepository, question } from '../support/questionnaires';

const part = (name: Parameters<typeof fromRepository>[0], answers: Answers = noAnswers): FillPart => ({ id: `${name}-part` as Id<'Part'>, questionnaire: forClient(fromRepository(name)), answers, signed: {}, prefilled: [], kept: {} });
const parts = [part('adult-intake'), part('consent-to-care'), part('phq-9')];

describe('the client\'s steps', () => {
  it('are one section a page, a signature after the consent, and the review last', () => {
    expect(stepsOf(parts).map((s) => (s.kind === 'section' ? s.section.title.slice(0, 16) : s.kind))).toEqual(['About you', 'How to reach you', 'Your health', 'Your days', 'What brings you', 'Consent to care', 'sign', 'Over the last 2 w', 'review'].map((t) => t.slice(0, 16)));
  });
  it('know what is missing on their own page and nothing of the others', () => {
    const [intake] = parts;
    const sections = sectionsOf(intake!.questionnaire);
    expect(sections.map((s) => problemsIn(intake!.questionnaire, noAnswers, s).length)).toEqual([3, 3, 4, 0, 1]);
    const yes: Answers = { rows: { medicines: ['a'] }, values: { 'has-medicines': [{ type: 'boolean', value: true }] } };
    expect(problemsIn(intake!.questionnaire, yes, sections[2]!).map((p) => p.key)).toEqual(['has-conditions', 'medicines:a/medicine-name', 'has-allergies', 'had-operations']);
    expect(keysIn(placedIn(intake!.questionnaire, yes, sections[2]!))).toContain('medicines:a/medicine-dose');
  });
  it('are left out while everything on them is hidden', () => {
    const hidden = { ...parts[0]!.questionnaire, items: [question('a', { type: 'boolean' }), { type: 'group' as const, linkId: 'g', text: 'G', codes: [], required: false, repeats: false, items: [question('b')], shownWhen: { behavior: 'all' as const, conditions: [{ question: 'a', operator: '=' as const, answer: { type: 'boolean' as const, value: true } }] } }] };
    const section = sectionsOf(hidden)[1]!;
    expect(isShown(placedIn(hidden, noAnswers, section))).toBe(false);
    expect(isShown(placedIn(hidden, { rows: {}, values: { a: [{ type: 'boolean', value: true }] } }, section))).toBe(true);
  });
  it('give each question an element that a page can hold', () => {
    expect(elementId('12345678-90', 'medicines:a1/medicine-name')).toBe('q-12345678-medicines_a1_medicine-name');
    expect(elementId('12345678-90', 'x"><script>')).toMatch(/^[\w-]+$/);
  });
  it('have words for every reason an answer can be refused for', () => {
    const reasons = ['missing', 'wrong-kind', 'not-an-option', 'too-long', 'too-short', 'too-small', 'too-large', 'too-many-decimals', 'pattern', 'email', 'phone', 'web-address', 'no-such-date', 'only-one', 'exclusive', 'not-asked', 'needs-a-row'] as const;
    const said = reasons.map((reason) => problemWords(problemKey({ key: 'k', linkId: 'k', reason }), '3'));
    expect(new Set(said).size).toBe(reasons.length);
    for (const words of said) expect(words).toMatch(/^[A-Z].*(\.|https:\/\/)$/);
  });
  it('say who it is for and how far along', () => {
    const t = clientWords('fill');
    expect([t('step', { at: '3', of: '9' }), t('forWhom', { name: 'Noor Vance' }), t('send', { practice: 'Fernhollow' })]).toEqual(['Step 3 of 9', 'You answer for Noor Vance.', 'Send to Fernhollow']);
  });
});
