import type { Sealer } from "../../core/shared";
import type { Db } from "../database";
import { chartRepository, noteRepository } from "./charts";
import { clientRepository } from "./clients";
import { fileRepository } from "./files";
import { journalRepository } from "./journal";
import { mailingRepository } from "./mailings";
import { packetRepository } from "./packets";
import { outboxRepository } from "./outbox";
import { practiceRepository } from "./practices";
import { questionnaireRepository } from "./questionnaires";
import { staffRepository } from "./staff";
import { leafletRepository, standingRepository } from "./standing";

/** All repositories on one connection or transaction. What must be sealed is sealed inside them. */
export const repositories = (db: Db, sealer: Sealer) => ({
  practices: practiceRepository(db),
  staff: staffRepository(db, sealer),
  clients: clientRepository(db, sealer),
  questionnaires: questionnaireRepository(db),
  packets: packetRepository(db, sealer),
  charts: chartRepository(db, sealer),
  notes: noteRepository(db, sealer),
  outbox: outboxRepository(db, sealer),
  files: fileRepository(db, sealer),
  journal: journalRepository(db),
  standing: standingRepository(db),
  leaflets: leafletRepository(db),
  mailings: mailingRepository(db, sealer),
});
export type Repositories = ReturnType<typeof repositories>;

export type { Client, Relation, RelationPerson, Visit } from "./clients";
export type { StoredFile } from "./files";
export type { JournalLine, JournalRow } from "./journal";
export type { Note, Posting } from "./charts";
export type { Packet, Part, PersonalLink, SavedAnswers, Signature } from "./packets";
export type { ClientFacts, Mailing, MailingPerson } from "./mailings";
export type { Leaflet, StandingPacket } from "./standing";
export type { PostMessage } from "./outbox";
export type { Practice, PracticeField } from "./practices";
export type { Draft, SharedRow, Version } from "./questionnaires";
export type { Staff } from "./staff";
