import type { Filled } from "./walk";

const phqItems = ["44250-9", "44255-8", "44259-0", "44254-2", "44251-7", "44258-2", "44252-5", "44253-3", "44260-8"];
const often = ["Not at all", "Several days", "More than half the days", "Nearly every day"];

/** PHQ-9 answers from nine numbers 0 to 3. */
export const phq9 = (items: readonly number[], difficulty?: string): Filled => ({
  values: {
    ...Object.fromEntries(phqItems.map((linkId, i) => [linkId, often[items[i] ?? 0]!])),
    ...(difficulty ? { "69722-7": difficulty } : {}),
  },
});
export const consentYes: Filled = { values: { "agree-care": true, "agree-contact": "Only in an emergency" } };

export const hugoIntake: Filled = {
  values: {
    "first-name": "Hugo",
    "last-name": "Lindgren",
    "birth-date": "1980-03-14",
    pronouns: "he / him",
    email: "hugo.lindgren@mail.example",
    phone: "020 7946 0299",
    address: "The Lock House, Reed Quay, Fernhollow",
    "emergency-name": "Siri Lindgren",
    "emergency-relation": "Child",
    "emergency-phone": "020 7946 0257",
    "has-conditions": false,
    "has-medicines": true,
    "has-allergies": false,
    "had-operations": false,
    pregnancy: "No",
    occupation: "Night porter at the ferry inn",
    "sleep-hours": 4.5,
    movement: "Hardly ever",
    alcohol: "More often",
    tobacco: "I stopped",
    "main-concern": "I feel flat most days and I cannot sleep after my shifts.",
    since: "Months",
    "had-care": false,
    goals: "I would ring my daughter without dreading it.",
  },
  rows: {
    medicines: [
      {
        "medicine-name": "Melatonin",
        "medicine-dose": "2 mg",
        "medicine-often": "Once a day",
        "medicine-reason": "Sleep",
      },
    ],
  },
};
export const priyaIntake: Filled = {
  values: {
    "first-name": "Priya",
    "last-name": "Desrosiers",
    "birth-date": "1986-10-09",
    email: "priya.desrosiers@mail.example",
    phone: "020 7946 0381",
    "emergency-name": "Luc Desrosiers",
    "emergency-phone": "020 7946 0382",
    "has-conditions": false,
    "has-medicines": false,
    "has-allergies": false,
    "had-operations": false,
    occupation: "Seed librarian",
    "sleep-hours": 6.5,
    movement: "Most days",
    "main-concern": "Grief after my mother died.",
    goals: "Being able to go into her garden.",
  },
};
export const cosmoIntake: Filled = {
  values: {
    "first-name": "Cosmo",
    "last-name": "Rinaldi",
    "birth-date": "1998-08-21",
    email: "cosmo.rinaldi@mail.example",
    phone: "020 7946 0832",
    "emergency-name": "Bea Rinaldi",
    "emergency-phone": "020 7946 0833",
    "has-conditions": false,
  },
};
