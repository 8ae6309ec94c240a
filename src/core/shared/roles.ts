/** What a member of staff is in the practice. `office` is administration and sees no answers, charts or notes. */
export type Role = 'owner' | 'office' | 'practitioner';
