import type { DemoClient } from "./scenario";

/** More of Fernhollow's clients, for a practice as it is after a year. Everybody is invented. */
const person = (
  key: string,
  name: string,
  birthDate: string,
  concern: string,
  more: Omit<Partial<DemoClient>, "key" | "chart"> & { readonly chart?: DemoClient["chart"] } = {},
): DemoClient => {
  const [firstName = "", ...rest] = name.split(" ");
  const phone = `020 7946 1${String([...key].reduce((sum, letter) => sum * 7 + letter.charCodeAt(0), 3) % 1000).padStart(3, "0")}`;
  return {
    ...more,
    key,
    chart: {
      "first-name": firstName,
      "last-name": rest.join(" "),
      "birth-date": birthDate,
      ...(more.prefers === "text" ? {} : { email: `${key}@mail.example` }),
      phone,
      "main-concern": concern,
      ...more.chart,
    },
  };
};
export const yearClients: readonly DemoClient[] = [
  person("anouk.merle", "Anouk Merle", "1988-05-02", "Panic on the ferry", { language: "fr" }),
  person("basil.thornby", "Basil Thornby", "1971-11-23", "Worn out by nights with his mother"),
  person("carmen.olmedo", "Carmen Olmedo", "1979-08-14", "Migraines before deadlines", { language: "es" }),
  person("dariusz.welk", "Dariusz Welk", "1990-02-27", "Cannot switch off after work"),
  person("elif.sarac", "Elif Sarac", "1996-10-05", "Low since moving here"),
  person("fenn.ashdown", "Fenn Ashdown", "2009-03-30", "Refuses school since September", {
    relation: { kind: "parent", firstName: "Mara", lastName: "Ashdown", email: "mara.ashdown@mail.example" },
  }),
  person("greta.vance", "Greta Vance", "1949-01-16", "Hip after the operation", { prefers: "text" }),
  person("hana.kovar", "Hana Kovar", "1993-06-21", "Sad after birth", {
    relation: { kind: "partner", firstName: "Petr", lastName: "Kovar", email: "petr.kovar@mail.example" },
  }),
  person("idris.bello", "Idris Bello", "1985-12-08", "Anger that frightens him"),
  person("juno.pell", "Juno Pell", "2000-09-12", "Eats too little under stress"),
  person("kaya.lund", "Kaya Lund", "1976-04-03", "Burnt out, on leave since spring"),
  person("lorcan.moy", "Lorcan Moy", "1963-07-19", "Back pain in the boatyard"),
  person("mina.farouk", "Mina Farouk", "1991-01-25", "Worries about everything", { language: "ar" }),
  person("nils.aker", "Nils Aker", "1982-03-08", "Grief after a separation"),
  person("oona.reidy", "Oona Reidy", "1998-11-30", "Checks the door twenty times"),
  person("pavel.hruby", "Pavel Hruby", "1969-05-17", "Sleeps three hours"),
  person("quinn.harlow", "Quinn Harlow", "2003-08-08", "Does not leave the house"),
  person("rosa.tamayo", "Rosa Tamayo", "1957-02-11", "Stiff neck and headaches", { language: "es" }),
  person("silas.wren", "Silas Wren", "1987-10-22", "Drinks more than he wants to"),
  person("thea.bask", "Thea Bask", "1994-12-12", "Feeding twins", {
    relation: { kind: "partner", firstName: "Jon", lastName: "Bask", email: "jon.bask@mail.example" },
  }),
  person("ulla.strand", "Ulla Strand", "1945-06-06", "Balance after a fall", { prefers: "text" }),
  person("victor.anand", "Victor Anand", "1974-09-29", "Nightmares since the accident"),
  person("wanda.ilic", "Wanda Ilic", "1981-07-04", "Shoulder, works overhead"),
  person("xavier.blanc", "Xavier Blanc", "1992-03-15", "Exam fear", { language: "fr" }),
  person("yara.sleiman", "Yara Sleiman", "1989-05-28", "Tired since the summer", { language: "ar" }),
  person("zeno.marchetti", "Zeno Marchetti", "1966-08-31", "Lost interest in his choir"),
  person("abel.corrigan", "Abel Corrigan", "2010-12-19", "Stomach aches before school", {
    relation: { kind: "guardian", firstName: "Nora", lastName: "Corrigan", email: "nora.corrigan@mail.example" },
  }),
  person("bettina.roth", "Bettina Roth", "1977-02-02", "Knee, wants to walk the ridge again"),
  person("cyrus.dane", "Cyrus Dane", "1995-04-24", "Quarrels with his brother"),
  person("delia.okoye", "Delia Okoye", "1984-11-11", "Gestational diabetes"),
];

/** A series of weekly totals, as many weeks ago as it begins; null: a week without an answer. */
export interface Series {
  readonly client: string;
  readonly staff: "maren" | "salma" | "tobias";
  readonly begun: number;
  readonly totals: readonly (number | null)[];
  /** Thoughts of self-harm were answered above zero in this week of the series. */
  readonly alarmIn?: number;
}
/** Better, worse, up and down; with gaps; one that alarms today. PHQ-9 totals, invented. */
export const series: readonly Series[] = [
  { client: "basil.thornby", staff: "maren", begun: 20, totals: [17, 16, 14, null, 13, 11, 10, 8, 7, 6, 5, 5] },
  { client: "dariusz.welk", staff: "maren", begun: 16, totals: [9, 11, 12, null, null, 14, 13, 15, 16, 15, 17, 18] },
  { client: "elif.sarac", staff: "maren", begun: 14, totals: [14, 13, 14, 12, 13, 11, 12, null, 10, 11, 10] },
  { client: "hana.kovar", staff: "salma", begun: 18, totals: [20, 19, 17, 15, 12, 11, 9, 8, null, 7, 6, 4, 4, 3, 3] },
  { client: "idris.bello", staff: "maren", begun: 10, totals: [8, 9, 7, 9, null, 8] },
  { client: "juno.pell", staff: "salma", begun: 12, totals: [11, 12, 10, 13, 9, 12, 8, 11, 7, 10] },
  {
    client: "kaya.lund",
    staff: "maren",
    begun: 24,
    totals: [22, 21, 19, 18, null, null, null, 16, 14, 12, 11, 8, 6],
  },
  { client: "nils.aker", staff: "maren", begun: 8, totals: [12, 14, 15, 17, 18, 19, 20], alarmIn: 6 },
  { client: "oona.reidy", staff: "maren", begun: 9, totals: [10, 9, 9, 8, 8, 7] },
  { client: "pavel.hruby", staff: "maren", begun: 13, totals: [15, 14, null, 12, 13, 11, null, 9, 9, 8] },
  { client: "silas.wren", staff: "tobias", begun: 7, totals: [13, 12, 12, 11, 9, 8] },
  { client: "zeno.marchetti", staff: "maren", begun: 11, totals: [16, 15, 16, 17, 15, 14, 14] },
];

/** Today's visits besides those of everybody's first two weeks: a full day. */
export const moreToday = [
  { client: "nils.aker", staff: "maren", type: "Follow-up", at: "12:00" },
  { client: "hana.kovar", staff: "salma", type: "Follow-up", at: "12:30" },
  { client: "fenn.ashdown", staff: "maren", type: "Follow-up", at: "14:00" },
  { client: "ulla.strand", staff: "tobias", type: "Movement check", at: "15:00" },
  { client: "kaya.lund", staff: "maren", type: "By video", at: "17:00" },
] as const;
