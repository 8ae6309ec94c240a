/** Words of a questionnaire as a finding cites them. */
export const short = (text: string): string => `“${text.length > 60 ? `${text.slice(0, 59)}…` : text}”`;
