import { startingMeasurePolicy } from "../src/core/measures";
import { readFileSync } from "node:fs";
import { createApplication, run, useCases, type Application } from "../src/server";
import { foldChart, identityOf, type EntryChange } from "../src/core/chart";
import { startingDoor, startingPages } from "../src/core/packet";
import { instant, instantMs, type Id, type Instant } from "../src/core/shared";
import { addDays, at as momentAt, dayIn } from "../src/core/scheduling";
import { repositories, type Practice } from "../src/db/repositories";
import { reconcileView } from "../src/usecases/charting";
import { consentYes, cosmoIntake, hugoIntake, phq9, priyaIntake } from "./answers";
import {
  clients,
  demoPassword,
  earlierVisits,
  otherDays,
  practiceText,
  support,
  staffList,
  todaysVisits,
  visitTypes,
  type DemoClient,
  type DemoVisit,
} from "./scenario";
import { runSeals } from "../src/jobs";
import { must, walkThrough } from "./walk";

export const questionnaireFiles = ["adult-intake", "consent-to-care", "phq-9"] as const;
export const questionnaireFile = (name: (typeof questionnaireFiles)[number]): string =>
  readFileSync(`demo/questionnaires/${name}.json`, "utf8");

/** The ids the scenario's people got. */
export interface Seeded {
  readonly staff: Readonly<Record<string, Id<"Staff">>>;
  readonly clients: Readonly<Record<string, Id<"Client">>>;
  readonly visits: Readonly<Record<string, Id<"Visit">>>;
  readonly questionnaires: readonly Id<"Questionnaire">[];
}

/** Everybody of Fernhollow, their past and two weeks of visits around now, in an empty database. No packet yet. */
export async function seedPeople(app: Application): Promise<Seeded> {
  const { random, clock, sealer, passwords } = app.ports;
  const now = clock.now();
  const repo = repositories(app.database.db, sealer);
  const practice: Practice = {
    id: random.id<"Practice">(),
    ...practiceText,
    linkDays: 14,
    languages: ["en", "es", "fr", "ar"],
    rights: {},
    secondFactorRequired: false,
    logoId: null,
    retention: {},
    chartLayout: {},
    signing: { confirmed: { at: now, by: "Maren Holloway" } },
    mailsAnchors: false,
    measures: startingMeasurePolicy,
    simulation: "deliver",
    door: startingDoor,
    pages: { ...startingPages, support },
    createdAt: now,
  };
  await repo.practices.add(practice);
  await repo.journal.start(practice.id);

  const passwordHash = await passwords.hash(demoPassword);
  const staff: Record<string, Id<"Staff">> = {};
  for (const { key, ...step } of staffList) {
    staff[key] = random.id<"Staff">();
    await repo.staff.add({ id: staff[key], practiceId: practice.id, passwordHash, joinedAt: now, ...step });
  }
  const types: Record<string, Id<"VisitType">> = {};
  for (const name of visitTypes) {
    types[name] = random.id<"VisitType">();
    await repo.visitTypes.add({
      id: types[name],
      practiceId: practice.id,
      name,
      minutes: 45,
      remote: name === "By video",
    });
  }

  const clientIds: Record<string, Id<"Client">> = {};
  const started = instant(instantMs(now) - 130 * 86_400_000);
  for (const client of clients) clientIds[client.key] = await settleClient(app, practice.id, client, started);

  const today = dayIn(now, practice.zone);
  const visits: Record<string, Id<"Visit">> = {};
  const row = (visit: DemoVisit, day: string) => {
    const startsAt = momentAt(day, visit.at, practice.zone);
    return {
      id: random.id<"Visit">(),
      practiceId: practice.id,
      clientId: clientIds[visit.client]!,
      staffId: staff[visit.staff]!,
      visitTypeId: types[visit.type]!,
      startsAt,
      endsAt: instant(instantMs(startsAt) + 45 * 60_000),
    };
  };
  const todays = todaysVisits.map((v) => row(v, today));
  todaysVisits.forEach((v, i) => {
    visits[v.client] = todays[i]!.id;
  });
  await repo.visits.add([
    ...todays,
    ...Object.entries(otherDays).flatMap(([offset, list]) => list.map((v) => row(v, addDays(today, Number(offset))))),
    ...earlierVisits.map((v) => row(v, addDays(today, -v.daysAgo))),
  ]);
  await app.practice();

  const actor = staffAs(app, staff["maren"]!, "maren");
  const questionnaires: Id<"Questionnaire">[] = [];
  for (const name of questionnaireFiles) {
    const { id } = must(await run(app, useCases.importQuestionnaire, actor, { text: questionnaireFile(name) }));
    must(await run(app, useCases.putInUse, actor, { id }));
    questionnaires.push(id);
  }
  must(await run(app, useCases.bringStarters, actor, {}));
  return { staff, clients: clientIds, visits, questionnaires };
}

/** Somebody with what the paper chart held, carried over by the front desk. */
export async function settleClient(
  app: Application,
  practiceId: Id<"Practice">,
  { key: _, chart, rows = {}, language = "en", prefers = "email", relation }: DemoClient,
  at: Instant,
): Promise<Id<"Client">> {
  const { random, sealer } = app.ports;
  const repo = repositories(app.database.db, sealer);
  const id = random.id<"Client">();
  const posting = random.id<"Posting">();
  const by = "Pia Lindqvist";
  const source = { kind: "staff" as const, reason: "Carried over from paper" };
  const changes: EntryChange[] = [
    ...Object.entries(chart).map(([field, value]): EntryChange => ({ kind: "set", field, value })),
    ...Object.entries(rows).flatMap(([field, list]) =>
      list.map((value): EntryChange => ({ kind: "row", field, row: random.id<"Row">(), value })),
    ),
  ];
  const entries = changes.map((change, index) => ({ seq: index + 1, posting, at, by, source, change }));
  const identity = identityOf(foldChart(entries));
  await repo.clients.add({ id, practiceId, language, prefers, createdAt: at, identity });
  const digest = await repo.charts.append(
    { id: posting, clientId: id, requestId: `start ${id}`, kind: "start", packetId: null, reverses: null, by, at },
    changes.map((change) => ({ change, source })),
  );
  const detail = { posting, entries: changes.length, digest };
  await repo.journal.write(practiceId, at, [
    { actor: "system", action: "chart.append", subject: `client:${id}`, address: "", detail },
  ]);
  if (relation) {
    const { kind, ...person } = relation;
    await repo.relations.add({ id: random.id<"Relation">(), clientId: id, kind, prefers: "email", person });
  }
  return id;
}

export function staffAs(_app: Application, id: Id<"Staff">, key: (typeof staffList)[number]["key"]) {
  const step = staffList.find((x) => x.key === key)!;
  return {
    kind: "staff" as const,
    id,
    name: step.name,
    email: step.email,
    role: step.role,
    sessionDigest: "",
    address: "127.0.0.1",
    device: "demo",
  };
}

/**
 * Packets in different states on today's sheet: settled, returned with an alert, under way, sent. Ines has none yet.
 */
export async function seedPackets(app: Application, seeded: Seeded): Promise<void> {
  const now = app.ports.clock.now();
  const ago = (hours: number): Application =>
    createApplication(
      app.database,
      {
        ...app.ports,
        clock: { now: (): Instant => instant(instantMs(now) - hours * 3_600_000) },
      },
      app.keys,
    );
  const maren = staffAs(app, seeded.staff["maren"]!, "maren");
  const send = async (when: Application, who: string): Promise<Id<"Packet">> =>
    must(
      await run(when, useCases.sendPacket, maren, {
        requestId: app.ports.random.id(),
        visitId: seeded.visits[who],
        questionnaireIds: seeded.questionnaires,
      }),
    ).packetId;

  const priya = await send(ago(70), "priya");
  await walkThrough(
    ago(52),
    priya,
    {
      AdultIntake: priyaIntake,
      ConsentToCare: consentYes,
      PHQ9: phq9([1, 1, 1, 1, 0, 1, 0, 0, 0], "Somewhat difficult"),
    },
    "Priya Desrosiers",
    true,
  );
  await runSeals(ago(52));
  const yesterday = ago(20);
  const view = must(await run(yesterday, reconcileView, maren, { packetId: priya }));
  must(
    await run(yesterday, useCases.postToChart, maren, {
      packetId: priya,
      requestId: app.ports.random.id(),
      revision: view.revision,
      decisions: view.lines.map((l) => ({ line: l.id, choice: l.suggested ?? "take" })),
    }),
  );
  const hugo = await send(ago(48), "hugo");
  await walkThrough(
    ago(15),
    hugo,
    { AdultIntake: hugoIntake, ConsentToCare: consentYes, PHQ9: phq9([3, 2, 3, 2, 1, 2, 1, 0, 2], "Very difficult") },
    "Hugo Lindgren",
    true,
  );
  await runSeals(ago(15));
  await walkThrough(ago(3), await send(ago(30), "cosmo"), { AdultIntake: cosmoIntake }, undefined, false);
  await send(ago(26), "tamsin");
  await send(ago(25), "edda");
}
