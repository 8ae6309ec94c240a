/** A section of a layout: a heading, what belongs there, and what is laid there. */
export interface LayoutSection {
  readonly id: string;
  readonly heading: string;
  /** What belongs under it, said while nothing is there. */
  readonly prompt?: string;
  /** Standing text, with placeholders. */
  readonly text?: string;
  /** Sections of the chart: answers that are charted there are quoted here. */
  readonly takes?: readonly string[];
  /** Keys of chart fields whose values are quoted here. */
  readonly fields?: readonly string[];
  /** Scores, with how they changed. */
  readonly measures?: true;
  /** Answers that belong nowhere else. */
  readonly rest?: true;
}
export interface TakeHomeSection {
  readonly heading: string;
  /** The heading in other languages that clients read, by their main tag. */
  readonly said?: Readonly<Record<string, string>>;
  readonly prompt?: string;
  readonly text?: string;
}
/** How a note is laid out. */
export interface NoteLayout {
  readonly id: string;
  readonly name: string;
  readonly sections: readonly LayoutSection[];
  readonly takeHome: readonly TakeHomeSection[];
}

const whatWeAgreed = {
  heading: "What we agreed",
  said: { es: "Lo que acordamos", fr: "Ce que nous avons convenu", ar: "ما اتفقنا عليه" },
};
const whomToRing = {
  heading: "Whom to ring",
  said: { es: "A quién llamar", fr: "Qui appeler", ar: "بمن تتصل" },
  text: "{{practice.name}}, {{practice.email}}",
};
const takeHome: readonly TakeHomeSection[] = [
  { ...whatWeAgreed, prompt: "In words they would use themselves." },
  {
    heading: "To try until we meet again",
    said: {
      es: "Para probar hasta la próxima visita",
      fr: "À essayer d’ici la prochaine visite",
      ar: "لتجربه حتى لقائنا القادم",
    },
    prompt: "One or two things, small enough to be done.",
  },
  whomToRing,
];
const agreed: LayoutSection = { id: "next", heading: "Agreed next steps", prompt: "Who does what until when." };

/** Layouts every practice has. */
export const startingLayouts: readonly NoteLayout[] = [
  {
    id: "first-assessment",
    name: "First assessment",
    sections: [
      { id: "reason", heading: "Why now", prompt: "In a sentence: what brought them today.", takes: ["concern"] },
      { id: "mind", heading: "Mental-health history", prompt: "What helped, what did not.", takes: ["mind"] },
      { id: "health", heading: "Medical history", prompt: "What matters for the work.", takes: ["health"] },
      { id: "social", heading: "Social history", prompt: "Work, home, people.", takes: ["life"] },
      { id: "development", heading: "Development", takes: ["development"] },
      { id: "family", heading: "Family", takes: ["family"] },
      { id: "life", heading: "Food, sleep, movement", takes: ["food"] },
      { id: "goals", heading: "What they hope for", takes: ["care"] },
      { id: "scores", heading: "Measures", measures: true },
      { id: "seen", heading: "What I saw and heard", prompt: "Observations, tests, how it went." },
      { id: "think", heading: "What I make of it", prompt: "Your understanding, and what it might also be." },
      agreed,
    ],
    takeHome,
  },
  {
    id: "soap",
    name: "Follow-up, S-O-A-P",
    sections: [
      {
        id: "subjective",
        heading: "Subjective",
        prompt: "How it was since last time, in their words.",
        takes: ["concern", "mind", "health", "life", "food", "family", "development"],
        rest: true,
      },
      {
        id: "objective",
        heading: "Objective",
        prompt: "What was seen and measured.",
        measures: true,
        takes: ["results"],
      },
      { id: "assessment", heading: "Assessment", prompt: "What you make of it." },
      { id: "plan", heading: "Plan", prompt: "What is done next, by whom, until when.", takes: ["care"] },
    ],
    takeHome,
  },
  {
    id: "dap",
    name: "D-A-P",
    sections: [
      {
        id: "data",
        heading: "Data",
        prompt: "What was said, seen and measured.",
        takes: ["concern", "mind", "health", "life", "food", "family", "development", "results"],
        measures: true,
        rest: true,
      },
      { id: "assessment", heading: "Assessment", prompt: "What you make of it." },
      { id: "plan", heading: "Plan", prompt: "What is done next, by whom, until when.", takes: ["care"] },
    ],
    takeHome,
  },
  {
    id: "goals-review",
    name: "Goals review",
    sections: [
      { id: "asked", heading: "What they asked for", fields: ["goals", "main-concern"], takes: ["care", "concern"] },
      {
        id: "scores",
        heading: "What has changed",
        prompt: "In their words and in figures.",
        measures: true,
        rest: true,
      },
      { id: "held", heading: "What helped, what stood in the way" },
      { id: "goals", heading: "Goals from here", prompt: "Kept, changed, new." },
      agreed,
    ],
    takeHome,
  },
  {
    id: "physio-review",
    name: "Physiotherapy review",
    sections: [
      {
        id: "since",
        heading: "Since last time",
        prompt: "Pain, sleep, what they did.",
        takes: ["concern", "food"],
        rest: true,
      },
      { id: "history", heading: "Health", fields: ["surgeries", "medicines"], takes: ["health"] },
      {
        id: "found",
        heading: "Found today",
        prompt: "Range, strength, tests, compared with last time.",
        measures: true,
      },
      { id: "did", heading: "Done today", prompt: "Hands, exercises, how many." },
      { id: "plan", heading: "Exercises and plan", prompt: "What, how often, when to stop." },
    ],
    takeHome: [
      {
        heading: "Your exercises",
        said: { es: "Sus ejercicios", fr: "Vos exercices", ar: "تمارينك" },
        prompt: "What, how many, how often; when to stop.",
      },
      whatWeAgreed,
      whomToRing,
    ],
  },
  {
    id: "dietetic-review",
    name: "Dietetic review",
    sections: [
      { id: "eating", heading: "Eating and drinking", prompt: "A usual day.", takes: ["food"], rest: true },
      { id: "health", heading: "Health and medicines", fields: ["allergies", "medicines"], takes: ["health"] },
      {
        id: "measures",
        heading: "Weight and measures",
        fields: ["weight", "height"],
        takes: ["results"],
        measures: true,
      },
      { id: "think", heading: "What I make of it" },
      { id: "plan", heading: "Agreed changes", prompt: "One or two, in their kitchen.", takes: ["care"] },
    ],
    takeHome,
  },
  { id: "blank", name: "Blank", sections: [{ id: "note", heading: "Note", rest: true }], takeHome },
];
export const layoutById = (id: string, own: readonly NoteLayout[] = []): NoteLayout | undefined =>
  [...own, ...startingLayouts].find((layout) => layout.id === id);
