import type { Sealer } from "../../core/shared";
import type { Db } from "../database";
import { alertRepository } from "./alerts";
import { answerRepository } from "./answers";
import { chartFieldRepository } from "./chart-fields";
import { chartRepository } from "./charts";
import { careTeamRepository } from "./care-teams";
import { clientImportRepository } from "./client-imports";
import { clientErasureRepository } from "./client-erasures";
import { clientKeyRepository } from "./client-keys";
import { clientMergeRepository } from "./client-merges";
import { clientRepository } from "./clients";
import { courseRepository } from "./courses";
import { deskRepository } from "./desks";
import { draftRepository } from "./drafts";
import { fileRepository } from "./files";
import { installationRepository } from "./installations";
import { journalRepository } from "./journal";
import { journalCheckRepository } from "./journal-check";
import { leafletRepository } from "./leaflets";
import { limitRepository } from "./limits";
import { linkRepository } from "./links";
import { mailingRepository } from "./mailings";
import { marginNoteRepository } from "./margin-notes";
import { noteLayoutRepository } from "./note-layouts";
import { noteRepository } from "./notes";
import { outboxRepository } from "./outbox";
import { packetRepository } from "./packets";
import { passRepository } from "./passes";
import { postingPlanRepository } from "./posting-plans";
import { practiceRepository } from "./practices";
import { questionnaireRepository } from "./questionnaires";
import { measureScheduleRepository } from "./measure-schedules";
import { retentionRepository } from "./retention";
import { reconcileDraftRepository } from "./reconcile-drafts";
import { relationRepository } from "./relations";
import { sessionRepository } from "./sessions";
import { type Sight } from "./sight";
import { signatureRepository } from "./signatures";
import { sealedPaperRepository } from "./sealed-papers";
import { signerRepository } from "./signers";
import { consentRepository } from "./consents";
import { staffRepository } from "./staff";
import { standingRepository } from "./standing-packets";
import { versionRepository } from "./versions";
import { visitTypeRepository, type VisitType } from "./visit-types";
import { visitRepository, type Taken } from "./visits";
import { wordingRepository } from "./wordings";

export type { Sight, Taken, VisitType };
/**
 * All repositories on one connection or transaction. What must be sealed is sealed inside them.
 *
 * @param sight whose clients they give anything of
 */
export const repositories = (db: Db, sealer: Sealer, sight: Sight = "all") => ({
  practices: practiceRepository(db),
  chartFields: chartFieldRepository(db),
  wordings: wordingRepository(db),
  noteLayouts: noteLayoutRepository(db),
  visitTypes: visitTypeRepository(db),
  staff: staffRepository(db, sealer),
  sessions: sessionRepository(db, sealer),
  limits: limitRepository(db),
  clients: clientRepository(db, sealer, sight),
  careTeams: careTeamRepository(db, sealer),
  clientErasures: clientErasureRepository(db, sealer),
  clientKeys: clientKeyRepository(db, sealer),
  clientMerges: clientMergeRepository(db),
  clientImports: clientImportRepository(db, sealer),
  relations: relationRepository(db, sealer, sight),
  visits: visitRepository(db, sealer, sight),
  questionnaires: questionnaireRepository(db),
  desks: deskRepository(db),
  drafts: draftRepository(db),
  versions: versionRepository(db),
  packets: packetRepository(db, sealer, sight),
  answers: answerRepository(db, sealer),
  signatures: signatureRepository(db, sealer),
  signers: signerRepository(db, sealer, sight),
  sealedPapers: sealedPaperRepository(db, sealer),
  consents: consentRepository(db, sealer, sight),
  links: linkRepository(db),
  passes: passRepository(db),
  charts: chartRepository(db, sealer, sight),
  alerts: alertRepository(db, sealer, sight),
  courses: courseRepository(db, sealer, sight),
  measureSchedules: measureScheduleRepository(db, sight),
  marginNotes: marginNoteRepository(db, sealer),
  postingPlans: postingPlanRepository(db),
  reconcileDrafts: reconcileDraftRepository(db, sealer),
  notes: noteRepository(db, sealer, sight),
  outbox: outboxRepository(db, sealer, sight),
  files: fileRepository(db, sealer, sight),
  installations: installationRepository(db),
  journal: journalRepository(db, sealer),
  journalCheck: journalCheckRepository(db, sealer),
  retention: retentionRepository(db),
  standing: standingRepository(db),
  leaflets: leafletRepository(db),
  mailings: mailingRepository(db, sealer, sight),
});
export type Repositories = ReturnType<typeof repositories>;

export type { RaisedAlert } from "./alerts";
export type { SavedAnswers } from "./answers";
export type { PracticeField } from "./chart-fields";
export type { Posting } from "./charts";
export type { MeasureSchedule } from "./measure-schedules";
export type { MarginNote } from "./margin-notes";
export type { KeptPlan } from "./posting-plans";
export type { KeptDecisions } from "./reconcile-drafts";
export type { Opening } from "./care-teams";
export type { ErasedCounts, Hold } from "./client-erasures";
export type { ClientImport, ImportRow } from "./client-imports";
export type { ClientMerge } from "./client-merges";
export { isHere } from "./clients";
export type { ChangedClients, Client, KnownClient } from "./clients";
export type { BroughtScore, KeptCourse } from "./courses";
export type { Draft } from "./drafts";
export type { StoredFile } from "./files";
export type { JournalLine, JournalRow, JournalWish, Refusal } from "./journal";
export type { CheckStep } from "./journal-check";
export { hasPracticeIn, installationRepository, isSettledIn } from "./installations";
export { markedHead } from "./kept-head";
export type { Leaflet } from "./leaflets";
export type { PersonalLink } from "./links";
export type { Mailing, MailingPerson } from "./mailings";
export type { KeptLayout } from "./note-layouts";
export type { Addendum, Note, NoteHead, NoteVersion, SharedTakeHome } from "./notes";
export type { PostMessage } from "./outbox";
export type { Packet, Part } from "./packets";
export type { Practice } from "./practices";
export type { SharedRow } from "./questionnaires";
export type { Relation, RelationPerson } from "./relations";
export type { Signature } from "./signatures";
export type { NamedPerson, RecordedTalk, Signer, SignerPlace } from "./signers";
export type { SealCertificate, SealedPaper } from "./sealed-papers";
export type { Consent, ConsentText } from "./consents";
export { hasSecondFactor, type Passkey, type Staff } from "./staff";
export type { StandingPacket } from "./standing-packets";
export type { Version } from "./versions";
export type { Visit } from "./visits";
