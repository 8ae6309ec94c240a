/** Which of a return's questions a layout's heading takes in. */
export type NotePick =
  | { readonly kind: "all" }
  | { readonly kind: "answered" }
  | { readonly kind: "chosen"; readonly keys: readonly string[] };

/** A heading the practitioner writes under, with a line that says what belongs there. */
export interface NoteHeading {
  readonly id: string;
  readonly heading: string;
  readonly prompt: string;
}
export interface NoteLayout {
  readonly id: string;
  readonly name: string;
  /** Where the client's words stand among the practitioner's headings: before the heading with this index. */
  readonly quotesAt: number;
  readonly headings: readonly NoteHeading[];
}

/** Layouts every practice starts with. */
export const startingLayouts: readonly NoteLayout[] = [
  {
    id: "first-visit",
    name: "First visit",
    quotesAt: 1,
    headings: [
      { id: "reason", heading: "Why now", prompt: "In a sentence: what brought them today." },
      { id: "seen", heading: "What I saw and heard", prompt: "Observations, tests, how it went." },
      { id: "think", heading: "What I make of it", prompt: "Your understanding, and what it might also be." },
      { id: "next", heading: "Agreed next steps", prompt: "Who does what until when." },
    ],
  },
  {
    id: "follow-up",
    name: "Follow-up visit",
    quotesAt: 0,
    headings: [
      { id: "since", heading: "Since last time", prompt: "What changed, what was tried." },
      { id: "did", heading: "What we did", prompt: "Today's work." },
      { id: "next", heading: "Agreed next steps", prompt: "Who does what until when." },
    ],
  },
];
