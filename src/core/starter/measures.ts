import {
  newLine,
  type AnswerOption,
  type Band,
  type ChangeRule,
  type Item,
  type Questionnaire,
  type ScoreRule,
} from "../questionnaire";

type Options = readonly (readonly [words: string, number: number])[];
interface MeasureItem {
  readonly text: string;
  readonly loinc?: string;
  readonly options?: Options;
}
interface MeasureScore {
  readonly key: string;
  readonly title: string;
  readonly items?: readonly number[];
  readonly factor?: number;
  readonly loinc?: string;
  readonly bands: readonly (readonly [low: number, high: number, label: string, alert?: string])[];
  readonly change?: ChangeRule;
}
interface Measure {
  readonly name: string;
  readonly title: string;
  readonly description: string;
  readonly copyright: string;
  readonly source: string;
  readonly loinc?: string;
  readonly lead: string;
  readonly options: Options;
  readonly items: readonly MeasureItem[];
  readonly scores: readonly MeasureScore[];
}
/** Numbers below stand as they are remembered from these sources: to be compared with them before they are relied on. */
const remembered = (source: string): string => `${source} (number from memory)`;
const sources = {
  gad7: "Spitzer, Kroenke, Williams, Loewe, Arch Intern Med 2006;166:1092-1097",
  gad7General: "Loewe et al., Med Care 2008;46:266-274",
  gad7Important: "Toussaint et al., J Affect Disord 2020;265:395-401",
  who5: "Topp, Ostergaard, Sondergaard, Bech, Psychother Psychosom 2015;84:167-176",
  audit: "Babor, Higgins-Biddle, Saunders, Monteiro, AUDIT, WHO 2001 (WHO/MSD/MSB/01.6a)",
  pcl5: "Weathers et al., The PTSD Checklist for DSM-5, National Center for PTSD 2013",
} as const;
const loinc = (code: string | undefined): { system: string; code: string }[] =>
  code === undefined ? [] : [{ system: "http://loinc.org", code }];

/**
 * Each item is required and each score needs all of its items: none of these sources gives a rule for missing ones that
 * we could name.
 */
function measure(message: Measure): Questionnaire {
  const url = `https://kindledger.example/fhir/Questionnaire/${message.name}`;
  const option = ([display, ordinal]: readonly [string, number], index: number): AnswerOption => ({
    value: {
      type: "coding",
      value: {
        system: `${url}/options`,
        code: `${index}-${display
          .toLowerCase()
          .replace(/[^a-z0-9]+/g, "-")
          .slice(0, 30)}`,
        display,
      },
    },
    ordinal,
  });
  const key = (i: number): string => `${message.name}-${i + 1}`;
  const items = message.items.map(
    (item, index): Item =>
      ({
        ...newLine("one-of", key(index)),
        prefix: String(index + 1),
        text: item.text,
        codes: loinc(item.loinc),
        required: true,
        options: (item.options ?? message.options).map(option),
      }) as Item,
  );
  const scores = message.scores.map((step): Item => {
    const counted = (step.items ?? message.items.map((_, i) => i + 1)).map((n) => key(n - 1));
    const bands = step.bands.map(([low, high, label, alert]): Band => ({
      low,
      high,
      label,
      source: message.source,
      ...(alert === undefined ? {} : { alert }),
    }));
    const score: ScoreRule = {
      method: "sum",
      items: counted,
      ...(step.factor === undefined ? {} : { factor: step.factor }),
      fewestAnswered: counted.length,
      proration: "none",
      bands,
      ...(step.change ? { change: step.change } : {}),
    };
    return {
      ...newLine("score", `${message.name}-${step.key}`),
      text: step.title,
      codes: loinc(step.loinc),
      score,
      type: "integer",
    } as Item;
  });
  return {
    url,
    version: "1",
    name: message.name,
    title: message.title,
    description: message.description,
    status: "active",
    language: "en",
    kind: "measure",
    signed: false,
    copyright: message.copyright,
    codes: loinc(message.loinc),
    items: [
      {
        type: "group",
        linkId: `${message.name}-items`,
        text: message.lead,
        codes: [],
        required: false,
        repeats: false,
        items,
      },
      ...scores,
    ],
  };
}

const fourDays: Options = [
  ["Not at all", 0],
  ["Several days", 1],
  ["More than half the days", 2],
  ["Nearly every day", 3],
];
const fiveTimes: Options = [
  ["None of the time", 1],
  ["A little of the time", 2],
  ["Some of the time", 3],
  ["Most of the time", 4],
  ["All of the time", 5],
];
const fromMemory =
  "The wording, and the LOINC codes where there are any, were written down from memory: compare them with the source before the first use.";
const often: Options = [
  ["Never", 0],
  ["Less than monthly", 1],
  ["Monthly", 2],
  ["Weekly", 3],
  ["Daily or almost daily", 4],
];
const everDrinking: Options = [
  ["No", 0],
  ["Yes, but not in the last year", 2],
  ["Yes, during the last year", 4],
];

/** Published measures. Bands and ranges are checked against their sources, every boundary, in the tests. */
export const measures: readonly Questionnaire[] = [
  measure({
    name: "gad-7",
    title: "How you have been: GAD-7",
    description: "Seven questions about worry over the last two weeks.",
    loinc: "69737-5",
    copyright: `GAD-7: developed by Drs Spitzer, Williams, Kroenke and colleagues; no permission required to reproduce, translate, display or distribute. ${fromMemory}`,
    source: "Spitzer, Kroenke, Williams, Loewe, Arch Intern Med 2006;166:1092-1097",
    lead: "Over the last 2 weeks, how often have you been bothered by the following problems?",
    options: fourDays,
    items: [
      { text: "Feeling nervous, anxious, or on edge", loinc: "69725-0" },
      { text: "Not being able to stop or control worrying", loinc: "68509-9" },
      { text: "Worrying too much about different things", loinc: "69733-4" },
      { text: "Trouble relaxing", loinc: "69734-2" },
      { text: "Being so restless that it is hard to sit still", loinc: "69735-9" },
      { text: "Becoming easily annoyed or irritable", loinc: "69689-8" },
      { text: "Feeling afraid, as if something awful might happen", loinc: "69736-7" },
    ],
    scores: [
      {
        key: "total",
        title: "GAD-7 total",
        loinc: "70274-6",
        bands: [
          [0, 4, "minimal"],
          [5, 9, "mild"],
          [10, 14, "moderate"],
          [15, 21, "severe"],
        ],
        change: {
          better: "lower",
          reliability: { value: 0.92, kind: "alpha", source: remembered(sources.gad7) },
          clinical: { mean: 14.4, sd: 4.7, source: remembered(sources.gad7) },
          general: { mean: 2.95, sd: 3.41, source: remembered(sources.gad7General) },
          cutPoint: { value: 10, source: sources.gad7 },
          important: { value: 4, source: remembered(sources.gad7Important) },
        },
      },
    ],
  }),
  measure({
    name: "phq-4",
    title: "How you have been: PHQ-4",
    description: "Four questions about mood and worry over the last two weeks.",
    loinc: "69724-3",
    copyright: `PHQ-4: developed by Drs Kroenke, Spitzer, Williams and Loewe; no permission required to reproduce, translate, display or distribute. ${fromMemory}`,
    source: "Kroenke, Spitzer, Williams, Loewe, Psychosomatics 2009;50:613-621",
    lead: "Over the last 2 weeks, how often have you been bothered by the following problems?",
    options: fourDays,
    items: [
      { text: "Feeling nervous, anxious, or on edge", loinc: "69725-0" },
      { text: "Not being able to stop or control worrying", loinc: "68509-9" },
      { text: "Little interest or pleasure in doing things", loinc: "44250-9" },
      { text: "Feeling down, depressed, or hopeless", loinc: "44255-8" },
    ],
    scores: [
      {
        key: "total",
        title: "PHQ-4 total",
        bands: [
          [0, 2, "normal"],
          [3, 5, "mild"],
          [6, 8, "moderate"],
          [9, 12, "severe"],
        ],
        change: { better: "lower" },
      },
      {
        key: "gad-2",
        title: "GAD-2, anxiety",
        items: [1, 2],
        bands: [
          [0, 2, "below the cut-point"],
          [3, 6, "at or above the cut-point"],
        ],
      },
      {
        key: "phq-2",
        title: "PHQ-2, depression",
        items: [3, 4],
        bands: [
          [0, 2, "below the cut-point"],
          [3, 6, "at or above the cut-point"],
        ],
      },
    ],
  }),
  measure({
    name: "who-5",
    title: "How well you have been: WHO-5",
    description: "Five sentences about the last two weeks.",
    copyright: `WHO-5 Well-Being Index: World Health Organization, free for non-commercial use with the source named (CC BY-NC-SA 3.0 IGO). ${fromMemory}`,
    source: "Topp, Ostergaard, Sondergaard, Bech, Psychother Psychosom 2015;84:167-176",
    lead: "Which is closest to how you have been feeling over the last two weeks?",
    options: [
      ["All of the time", 5],
      ["Most of the time", 4],
      ["More than half of the time", 3],
      ["Less than half of the time", 2],
      ["Some of the time", 1],
      ["At no time", 0],
    ],
    items: [
      { text: "I have felt cheerful and in good spirits" },
      { text: "I have felt calm and relaxed" },
      { text: "I have felt active and vigorous" },
      { text: "I woke up feeling fresh and rested" },
      { text: "My daily life has been filled with things that interest me" },
    ],
    scores: [
      {
        key: "total",
        title: "WHO-5, 0 to 100",
        factor: 4,
        bands: [
          [0, 50, "low well-being"],
          [52, 100, "not low"],
        ],
        change: {
          better: "higher",
          cutPoint: { value: 50, source: sources.who5 },
          important: { value: 10, source: remembered(sources.who5) },
        },
      },
    ],
  }),
  measure({
    name: "audit",
    title: "Alcohol: AUDIT",
    description: "Ten questions about drinking over the last year.",
    loinc: "72110-0",
    copyright: `AUDIT: World Health Organization; may be reproduced without permission for non-commercial use with the source named. ${fromMemory}`,
    source: "Babor, Higgins-Biddle, Saunders, Monteiro, AUDIT, WHO 2001 (WHO/MSD/MSB/01.6a)",
    lead: "The next questions are about your use of alcohol during the past year.",
    options: often,
    items: [
      {
        text: "How often do you have a drink containing alcohol?",
        options: [
          ["Never", 0],
          ["Monthly or less", 1],
          ["2 to 4 times a month", 2],
          ["2 to 3 times a week", 3],
          ["4 or more times a week", 4],
        ],
      },
      {
        text: "How many drinks containing alcohol do you have on a typical day when you are drinking?",
        options: [
          ["1 or 2", 0],
          ["3 or 4", 1],
          ["5 or 6", 2],
          ["7 to 9", 3],
          ["10 or more", 4],
        ],
      },
      { text: "How often do you have six or more drinks on one occasion?" },
      {
        text: "How often during the last year have you found that you were not able to stop drinking once you had started?",
      },
      {
        text: "How often during the last year have you failed to do what was normally expected of you because of drinking?",
      },
      {
        text: "How often during the last year have you needed a first drink in the morning to get yourself going after a heavy drinking session?",
      },
      { text: "How often during the last year have you had a feeling of guilt or remorse after drinking?" },
      {
        text: "How often during the last year have you been unable to remember what happened the night before because of your drinking?",
      },
      { text: "Have you or someone else been injured because of your drinking?", options: everDrinking },
      {
        text: "Has a relative, friend, doctor, or other health care worker been concerned about your drinking or suggested you cut down?",
        options: everDrinking,
      },
    ],
    scores: [
      {
        key: "total",
        title: "AUDIT total",
        bands: [
          [0, 7, "zone I"],
          [8, 15, "zone II"],
          [16, 19, "zone III"],
          [20, 40, "zone IV"],
        ],
        change: { better: "lower", cutPoint: { value: 8, source: sources.audit } },
      },
      { key: "c", title: "AUDIT-C", items: [1, 2, 3], bands: [] },
    ],
  }),
  measure({
    name: "k10",
    title: "How you have been feeling: K10",
    description: "Ten questions about the last 30 days.",
    copyright: `K10: R. C. Kessler, Harvard Medical School; in the public domain. ${fromMemory}`,
    source: "Kessler et al., Psychol Med 2002;32:959-976",
    lead: "During the last 30 days, about how often did you feel…",
    options: fiveTimes,
    items: [
      "tired out for no good reason?",
      "nervous?",
      "so nervous that nothing could calm you down?",
      "hopeless?",
      "restless or fidgety?",
      "so restless that you could not sit still?",
      "depressed?",
      "that everything was an effort?",
      "so sad that nothing could cheer you up?",
      "worthless?",
    ].map((text) => ({ text })),
    // The source gives no cut-points of its own; bands in use differ by country, so none is set here.
    scores: [{ key: "total", title: "K10 total", bands: [], change: { better: "lower" } }],
  }),
  measure({
    name: "pcl-5",
    title: "After a very stressful experience: PCL-5",
    description: "Twenty problems that people can have after a very stressful experience.",
    copyright: `PCL-5: National Center for PTSD, U.S. Department of Veterans Affairs; in the public domain. ${fromMemory}`,
    source:
      "Weathers, Litz, Keane, Palmieri, Marx, Schnurr, The PTSD Checklist for DSM-5, National Center for PTSD 2013",
    lead: "In the past month, how much were you bothered by:",
    options: [
      ["Not at all", 0],
      ["A little bit", 1],
      ["Moderately", 2],
      ["Quite a bit", 3],
      ["Extremely", 4],
    ],
    items: [
      "Repeated, disturbing, and unwanted memories of the stressful experience?",
      "Repeated, disturbing dreams of the stressful experience?",
      "Suddenly feeling or acting as if the stressful experience were actually happening again?",
      "Feeling very upset when something reminded you of the stressful experience?",
      "Having strong physical reactions when something reminded you of the stressful experience?",
      "Avoiding memories, thoughts, or feelings related to the stressful experience?",
      "Avoiding external reminders of the stressful experience?",
      "Trouble remembering important parts of the stressful experience?",
      "Having strong negative beliefs about yourself, other people, or the world?",
      "Blaming yourself or someone else for the stressful experience or what happened after it?",
      "Having strong negative feelings such as fear, horror, anger, guilt, or shame?",
      "Loss of interest in activities that you used to enjoy?",
      "Feeling distant or cut off from other people?",
      "Trouble experiencing positive feelings?",
      "Irritable behavior, angry outbursts, or acting aggressively?",
      "Taking too many risks or doing things that could cause you harm?",
      "Being “superalert” or watchful or on guard?",
      "Feeling jumpy or easily startled?",
      "Having difficulty concentrating?",
      "Trouble falling or staying asleep?",
    ].map((text) => ({ text })),
    scores: [
      {
        key: "total",
        title: "PCL-5 total",
        bands: [
          [0, 30, "below the provisional cut-point"],
          [31, 33, "within the provisional cut-point range, 31 to 33"],
          [34, 80, "above the provisional cut-point"],
        ],
        change: { better: "lower", cutPoint: { value: 31, source: sources.pcl5 } },
      },
      { key: "b", title: "Cluster B, intrusion", items: [1, 2, 3, 4, 5], bands: [] },
      { key: "c", title: "Cluster C, avoidance", items: [6, 7], bands: [] },
      { key: "d", title: "Cluster D, thoughts and mood", items: [8, 9, 10, 11, 12, 13, 14], bands: [] },
      { key: "e", title: "Cluster E, arousal", items: [15, 16, 17, 18, 19, 20], bands: [] },
    ],
  }),
];
