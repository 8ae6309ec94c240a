/** Fernhollow Care Rooms: our own made-up practice by a lake. Everybody and everything in here is invented. */
export const demoPassword = "heron-reed-lantern-42";

export const practiceText = {
  name: "Fernhollow Care Rooms",
  zone: "Europe/London",
  locale: "en-GB",
  email: "desk@fernhollow.example",
  address: "3 Lakeside Walk\nFernhollow",
  country: "GB",
};
/** Whom somebody in danger calls. */
export const support = {
  en: "If you might hurt yourself, or are in danger now, please do not wait for us. Call 112, day or night, or go to the nearest hospital. You can also call the desk at Fernhollow on 01632 960 100, Monday to Friday from 8 to 18, and we will call you back the same day.",
  es: "Si podría hacerse daño, o está en peligro ahora, por favor no nos espere. Llame al 112, de día o de noche, o vaya al hospital más cercano. También puede llamar a Fernhollow al 01632 960 100, de lunes a viernes de 8 a 18, y le llamamos el mismo día.",
  fr: "Si vous risquez de vous faire du mal, ou si vous êtes en danger maintenant, ne nous attendez pas. Appelez le 112, jour et nuit, ou allez à l’hôpital le plus proche. Vous pouvez aussi appeler Fernhollow au 01632 960 100, du lundi au vendredi de 8 h à 18 h ; nous vous rappelons le jour même.",
  ar: "إذا كنت قد تؤذي نفسك، أو كنت في خطر الآن، فلا تنتظرنا. اتصل بالرقم 112 في أي وقت، أو اذهب إلى أقرب مستشفى. يمكنك أيضًا الاتصال بمكتب فيرنهولو على 01632 960 100 من الاثنين إلى الجمعة من 8 إلى 18، ونتصل بك في اليوم نفسه.",
};

export const staffList = [
  {
    key: "maren",
    name: "Maren Holloway",
    title: "Integrative counsellor",
    email: "maren@fernhollow.example",
    role: "owner",
  },
  {
    key: "tobias",
    name: "Tobias Renn",
    title: "Musculoskeletal physiotherapist",
    email: "tobias@fernhollow.example",
    role: "practitioner",
  },
  {
    key: "salma",
    name: "Salma Idris",
    title: "Perinatal dietitian",
    email: "salma@fernhollow.example",
    role: "practitioner",
  },
  { key: "pia", name: "Pia Lindqvist", title: "Front desk", email: "pia@fernhollow.example", role: "office" },
] as const;
export type StaffKey = (typeof staffList)[number]["key"];

export const visitTypes = ["First visit", "Follow-up", "Movement check", "Food and feeding", "By video"] as const;
export type VisitTypeName = (typeof visitTypes)[number];

export interface DemoClient {
  readonly key: string;
  readonly language?: string;
  readonly prefers?: "email" | "text";
  /** Chart values from before, by field key. */
  readonly chart: Readonly<Record<string, string>>;
  readonly rows?: Readonly<Record<string, readonly Readonly<Record<string, string>>[]>>;
  readonly relation?: {
    readonly kind: "guardian" | "parent" | "partner";
    readonly firstName: string;
    readonly lastName: string;
    readonly email?: string;
    readonly phone?: string;
  };
}
export const clients: readonly DemoClient[] = [
  {
    key: "ines",
    chart: {
      "first-name": "Ines",
      "last-name": "Halvorsen",
      "birth-date": "1991-04-17",
      email: "ines.halvorsen@mail.example",
      phone: "020 7946 0314",
      pronouns: "she / her",
      address: "4 Boathouse Lane, Fernhollow",
      "emergency-name": "Jonas Halvorsen",
      "emergency-relation": "Parent",
      "emergency-phone": "020 7946 0120",
      conditions: "Asthma since childhood",
      occupation: "Surveyor",
      "sleep-hours": "7",
      alcohol: "Once a week",
      tobacco: "No",
      "main-concern": "Sleeps badly since moving house",
      support: "My father and my choir",
      "phq9-total": "8",
    },
    rows: {
      medicines: [
        { name: "Salbutamol", dose: "100 mcg", often: "When needed", reason: "Asthma" },
        { name: "Vitamin D", dose: "1000 IU", often: "Once a day" },
      ],
      allergies: [{ substance: "Penicillin", reaction: "Rash" }],
    },
  },
  {
    key: "bram",
    chart: {
      "first-name": "Bram",
      "last-name": "Okafor",
      "birth-date": "1967-09-02",
      email: "bram.okafor@mail.example",
      phone: "020 7946 0477",
      occupation: "Head gardener",
      "main-concern": "Stiff lower back after digging",
      operations: "Left knee, 2015",
    },
    rows: { medicines: [{ name: "Ibuprofen", dose: "400 mg", often: "When needed", reason: "Back pain" }] },
  },
  {
    key: "noor",
    chart: {
      "first-name": "Noor",
      "last-name": "Vance",
      "birth-date": "2011-02-11",
      "main-concern": "Worries before exams",
      occupation: "School",
    },
    relation: {
      kind: "guardian",
      firstName: "Leila",
      lastName: "Vance",
      email: "leila.vance@mail.example",
      phone: "020 7946 0551",
    },
  },
  {
    key: "layla",
    language: "ar",
    chart: {
      "first-name": "ليلى",
      "last-name": "حداد",
      "birth-date": "1994-12-05",
      email: "layla.haddad@mail.example",
      phone: "020 7946 0623",
      pregnancy: "Pregnant",
      "main-concern": "فقر دم في الحمل",
    },
    rows: { medicines: [{ name: "Iron", dose: "65 mg", often: "Once a day", reason: "Low iron" }] },
  },
  {
    key: "edda",
    prefers: "text",
    chart: {
      "first-name": "Edda",
      "last-name": "Marsh",
      "birth-date": "1954-06-30",
      phone: "020 7946 0708",
      occupation: "Retired cellist",
      "main-concern": "Sore thumb when bowing",
    },
  },
  {
    key: "cosmo",
    chart: {
      "first-name": "Cosmo",
      "last-name": "Rinaldi",
      "birth-date": "1998-08-21",
      email: "cosmo.rinaldi@mail.example",
      phone: "020 7946 0832",
      occupation: "Violinist",
      "main-concern": "Neck pain in long rehearsals",
    },
  },
  {
    key: "tamsin",
    chart: {
      "first-name": "Tamsin",
      "last-name": "Oyelaran",
      "birth-date": "1993-01-28",
      email: "tamsin.oyelaran@mail.example",
      phone: "020 7946 0919",
      pregnancy: "Gave birth in the last year",
      "main-concern": "Feeding plan after birth",
    },
  },
  {
    key: "hugo",
    chart: {
      "first-name": "Hugo",
      "last-name": "Lindgren",
      "birth-date": "1980-03-14",
      email: "hugo.lindgren@mail.example",
      phone: "020 7946 0256",
      occupation: "Night porter",
      "main-concern": "Low mood since the winter",
      "phq9-total": "12",
    },
  },
  {
    key: "priya",
    chart: {
      "first-name": "Priya",
      "last-name": "Desrosiers",
      "birth-date": "1986-10-09",
      email: "priya.desrosiers@mail.example",
      phone: "020 7946 0381",
      occupation: "Seed librarian",
      "main-concern": "Grief",
    },
  },
  {
    key: "otto",
    chart: {
      "first-name": "Otto",
      "last-name": "Fenn",
      "birth-date": "1959-11-19",
      "main-concern": "Shoulder after a fall",
      occupation: "Boat builder",
    },
  },
];

export interface DemoVisit {
  readonly client: string;
  readonly staff: StaffKey;
  readonly type: VisitTypeName;
  readonly at: string;
}
export const todaysVisits: readonly DemoVisit[] = [
  { client: "priya", staff: "maren", type: "Follow-up", at: "08:30" },
  { client: "hugo", staff: "maren", type: "Follow-up", at: "09:30" },
  { client: "cosmo", staff: "tobias", type: "First visit", at: "10:00" },
  { client: "ines", staff: "maren", type: "First visit", at: "11:00" },
  { client: "tamsin", staff: "salma", type: "Food and feeding", at: "11:30" },
  { client: "edda", staff: "tobias", type: "Movement check", at: "13:30" },
  { client: "layla", staff: "salma", type: "Food and feeding", at: "14:15" },
  { client: "noor", staff: "maren", type: "First visit", at: "15:30" },
  { client: "otto", staff: "tobias", type: "First visit", at: "16:15" },
];
/** The other days of the two weeks: who comes when, by day offset from today. */
export const otherDays: Readonly<Record<number, readonly DemoVisit[]>> = Object.fromEntries(
  [-7, -6, -5, -4, -3, -2, -1, 1, 2, 3, 4, 5, 6, 7].map((offset) => {
    const slots = ["09:00", "10:15", "11:30", "14:00", "15:15"];
    return [
      offset,
      slots.map((at, index): DemoVisit => {
        const client = clients[(offset * 3 + index * 2 + 100) % clients.length]!;
        return {
          client: client.key,
          at,
          type: visitTypes[(offset + index + 50) % visitTypes.length]!,
          staff: (["maren", "tobias", "salma"] as const)[(offset + index + 30) % 3]!,
        };
      }),
    ];
  }),
);
/** Earlier visits, so that everybody has a past: days before today. */
export const earlierVisits: readonly (DemoVisit & { readonly daysAgo: number })[] = clients.flatMap(
  (condition, index) => [
    {
      client: condition.key,
      staff: (["maren", "tobias", "salma"] as const)[index % 3]!,
      type: "First visit" as const,
      at: "10:00",
      daysAgo: 120 + index,
    },
    {
      client: condition.key,
      staff: (["maren", "tobias", "salma"] as const)[index % 3]!,
      type: "Follow-up" as const,
      at: "11:00",
      daysAgo: 60 + index,
    },
  ],
);
