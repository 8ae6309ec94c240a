/** What a member of staff is in the practice. `office` is administration and sees no answers, charts or notes. */
export const roles = ['owner', 'office', 'practitioner'] as const;
export type Role = (typeof roles)[number];
