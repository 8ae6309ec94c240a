import { journalActions, type JournalAction } from "./journal-actions";

/** What the journal's rows are about, to look some of them up. Each action is in one kind. */
const beginnings = {
  "signing-in": ["sign-in", "sign-out", "second-factor", "passkey", "password", "account"],
  clients: ["client", "clients", "test-client", "relation", "reach", "everything"],
  packets: ["packet", "link", "mailing", "door", "page", "post-room"],
  answers: ["answer", "file", "signature", "paper", "consent", "consents", "return", "returns", "response"],
  charts: ["chart", "reconcile", "measures", "alert", "note", "note-layout", "take-home", "plan", "margin-note"],
  visits: ["visit", "visit-type"],
  questionnaires: ["questionnaire", "standing", "leaflet"],
  practice: ["practice", "staff", "wording", "pages", "chart-field"],
  journal: ["journal"],
} as const;
export type JournalKind = keyof typeof beginnings;
export const journalKinds = Object.keys(beginnings) as readonly JournalKind[];
export const journalKindWords: Readonly<Record<JournalKind, string>> = {
  "signing-in": "Signing in",
  clients: "Clients",
  packets: "Packets, doors and letters",
  answers: "Answers and signatures",
  charts: "Charts and notes",
  visits: "Visits",
  questionnaires: "Questionnaires",
  practice: "Practice and staff",
  journal: "The journal itself",
};
const kindOfBeginning = new Map<string, JournalKind>(
  journalKinds.flatMap((kind) => beginnings[kind].map((beginning): [string, JournalKind] => [beginning, kind])),
);
/** Undefined for an action of no kind; there is none. */
export const journalKindOf = (action: JournalAction): JournalKind | undefined =>
  kindOfBeginning.get(action.split(".")[0]!);
export const actionsOfKind = (kind: JournalKind): readonly JournalAction[] =>
  journalActions.filter((action) => journalKindOf(action) === kind);
