import { paragraph } from "../src/core/notes";
import { addDays, at as momentAt, dayIn } from "../src/core/scheduling";
import { instant, instantMs, type Id, type Instant } from "../src/core/shared";
import { repositories } from "../src/db/repositories";
import { createApplication, run, useCases, type Application } from "../src/server";
import { consentYes, hugoIntake, phq9 } from "./answers";
import { moreToday, series, yearClients } from "./people";
import type { StaffKey } from "./scenario";
import { settleClient, staffAs, type Seeded } from "./seed";
import { runSeals } from "../src/jobs";
import { must, openDoor, walkThrough, type Filled } from "./walk";

const day = 86_400_000;
const week = 7 * day;
/** Something that happened at a moment; all of it is done in order. */
interface Event {
  readonly at: number;
  readonly happen: (then: Application) => Promise<void>;
}

/** Nine items that add up to a total; the ninth is above zero only where it alarms. */
export function itemsFor(total: number, alarms: boolean): number[] {
  const items = [0, 0, 0, 0, 0, 0, 0, 0, alarms ? 2 : 0];
  for (let left = total - items[8]!, index = 0; left > 0; index = (index + 1) % 8) {
    if (items[index]! < 3) {
      items[index]!++;
      left--;
    }
  }
  return items;
}

/**
 * A year of Fernhollow after its people were settled in: thirty more clients, visits, weekly measures with gaps, notes,
 * returns in every state, bounced letters. Everything goes through the use cases, with the clock moved to when it
 * happened.
 */
export async function seedYear(app: Application, seeded: Seeded): Promise<void> {
  const now = instantMs(app.ports.clock.now());
  const practice = (await app.practice())!;
  const clients: Record<string, Id<"Client">> = { ...seeded.clients };
  for (const client of yearClients)
    clients[client.key] = await settleClient(app, practice.id, client, instant(now - 330 * day));
  await addVisits(app, seeded, clients);
  const year = new Year(app, seeded, clients);
  const events = [...year.measures(now), ...year.packets(now)];
  for (const event of events.sort((a, b) => a.at - b.at)) {
    const clock = { now: (): Instant => instant(event.at) };
    await event.happen(createApplication(app.database, { ...app.ports, clock }, app.keys));
  }
}

/** Visits of the year: each series weekly, the others now and then; and a full day today. */
async function addVisits(app: Application, seeded: Seeded, clients: Seeded["clients"]): Promise<void> {
  const { random, clock, sealer } = app.ports;
  const practice = (await app.practice())!;
  const repo = repositories(app.database.db, sealer);
  const types = new Map((await repo.visitTypes.all(practice.id)).map((type) => [type.name, type.id]));
  const today = dayIn(clock.now(), practice.zone);
  const visit = (client: string, staff: StaffKey, type: string, on: string, time: string) => {
    const startsAt = momentAt(on, time, practice.zone);
    return {
      id: random.id<"Visit">(),
      practiceId: practice.id,
      clientId: clients[client]!,
      staffId: seeded.staff[staff]!,
      visitTypeId: types.get(type)!,
      startsAt,
      endsAt: instant(instantMs(startsAt) + 45 * 60_000),
    };
  };
  const staff = ["maren", "tobias", "salma"] as const;
  const there = await repo.visits.between(practice.id, instant(0), instant("2100-01-01T00:00:00Z"));
  const wanted = [
    ...moreToday.map(({ client, staff: by, type, at }) => visit(client, by, type, today, at)),
    ...series.flatMap(({ client, staff: by, begun, totals }, index) =>
      totals.flatMap((total, number) =>
        total === null || number >= begun
          ? []
          : [visit(client, by, "Follow-up", addDays(today, -7 * (begun - number)), `${9 + (index % 8)}:30`)],
      ),
    ),
    ...yearClients.flatMap(({ key }, index) =>
      [300, 210, 120, 45].map((ago, number) =>
        visit(
          key,
          staff[index % 3]!,
          number === 0 ? "First visit" : "Follow-up",
          addDays(today, -(ago + index)),
          `${8 + ((index + number) % 9)}:00`,
        ),
      ),
    ),
  ];
  await repo.visits.add(withoutOverlap(wanted, there));
}
interface Held {
  readonly staffId: string;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
}
/** Nobody is in two visits at once: whoever is held already has theirs when that one is over. */
function withoutOverlap<V extends Held>(wanted: readonly V[], there: readonly Held[]): V[] {
  const held: Held[] = [...there];
  return wanted.map((visit) => {
    let placed = visit;
    for (let inTheWay = clash(placed, held); inTheWay; inTheWay = clash(placed, held)) {
      const length = instantMs(placed.endsAt) - instantMs(placed.startsAt);
      placed = {
        ...placed,
        startsAt: inTheWay.endsAt,
        endsAt: instant(instantMs(inTheWay.endsAt) + length),
      };
    }
    held.push(placed);
    return placed;
  });
}
const clash = (visit: Held, held: readonly Held[]): Held | undefined =>
  held.find((one) => one.staffId === visit.staffId && one.startsAt < visit.endsAt && visit.startsAt < one.endsAt);

/** An intake in which nobody stands under another's name: what is on file for them, and days like many others'. */
function intakeOf(key: string): Filled {
  const { chart } = yearClients.find((client) => client.key === key)!;
  const own = ["first-name", "last-name", "birth-date", "email", "phone", "main-concern"].flatMap((field) => {
    const value = chart[field];
    return typeof value === "string" ? [[field, value] as const] : [];
  });
  const emergency = { "emergency-name": `Robin ${chart["last-name"]}`, "emergency-relation": "Partner" };
  const { pronouns: _, address: __, ...days } = hugoIntake.values;
  return { ...hugoIntake, values: { ...days, ...emergency, occupation: "Boatbuilder", ...Object.fromEntries(own) } };
}

class Year {
  constructor(
    private readonly app: Application,
    private readonly seeded: Seeded,
    private readonly clients: Seeded["clients"],
  ) {}

  private as = (key: StaffKey) => staffAs(this.app, this.seeded.staff[key]!, key);
  private request = (): string => this.app.ports.random.id();
  private get intake(): Id<"Questionnaire"> {
    return this.seeded.questionnaires[0]!;
  }
  private get phq9(): Id<"Questionnaire"> {
    return this.seeded.questionnaires[2]!;
  }
  private async send(
    then: Application,
    client: string,
    by: StaffKey,
    questionnaireIds: readonly Id<"Questionnaire">[],
    more: object = {},
  ): Promise<Id<"Packet">> {
    const input = { requestId: this.request(), clientId: this.clients[client], questionnaireIds, ...more };
    return must(await run(then, useCases.sendPacket, this.as(by), input)).packetId;
  }

  /** The same short measure week after week, each sent, answered and posted; the newest still to be read. */
  measures(now: number): Event[] {
    return series.flatMap(({ client, staff, begun, totals, alarmIn }, place) =>
      totals.flatMap((total, number): Event[] => {
        if (total === null) return [];
        const alarms = number === alarmIn;
        const newest = number === totals.length - 1;
        const at = newest && alarms ? now - 3_600_000 : now - (begun - number) * week - (day / 24) * (10 + place / 3);
        const answers = phq9(itemsFor(total, alarms), "Somewhat difficult");
        return [
          {
            at,
            happen: async (then) => {
              const packetId = await this.send(then, client, staff, [this.phq9]);
              await walkThrough(then, packetId, { PHQ9: answers }, undefined, true);
              if (!newest) await this.post(then, packetId, staff, number % 4 === 3);
            },
          },
        ];
      }),
    );
  }

  private async post(then: Application, packetId: Id<"Packet">, by: StaffKey, withNote: boolean): Promise<void> {
    const view = must(await run(then, useCases.reconcileView, this.as(by), { packetId }));
    const decisions = view.lines.map((line) => ({ line: line.id, choice: line.suggested ?? "take" }));
    const input = { packetId, requestId: this.request(), revision: view.revision, decisions };
    must(await run(then, useCases.postToChart, this.as(by), input));
    if (!withNote) return;
    const begun = { packetId, requestId: this.request(), layoutId: "soap" };
    const { noteId } = must(await run(then, useCases.beginNote, this.as(by), begun));
    const note = must(await run(then, useCases.noteView, this.as(by), { noteId }));
    let section = "";
    // Under each heading, in the place of its blank line.
    const content = note.content.body.content.map((block) => {
      if (block.type === "heading") section = block.attrs.section ?? "";
      return block.type === "paragraph" ? paragraph(noteText[section] ?? "") : block;
    });
    const { takeHome } = note.content;
    const written = { noteId, revision: note.revision, body: { type: "doc", content }, takeHome };
    const { revision } = must(await run(then, useCases.saveNote, this.as(by), written));
    must(await run(then, useCases.finishNote, this.as(by), { noteId, revision, requestId: this.request() }));
  }

  /** One packet in each state there is, and some letters that went wrong. */
  packets(now: number): Event[] {
    const event = (daysAgo: number, happen: Event["happen"]): Event => ({ at: now - daysAgo * day, happen });
    const all = this.seeded.questionnaires;
    return [
      event(40, async (then) => void (await this.send(then, "greta.vance", "tobias", [this.intake]))),
      event(1.1, async (then) => void (await this.send(then, "abel.corrigan", "maren", [this.intake], { by: "link" }))),
      event(2, async (then) => void (await this.send(then, "carmen.olmedo", "maren", [this.intake]))),
      event(3, async (then) => {
        const packetId = await this.send(then, "anouk.merle", "maren", [this.intake]);
        await openDoor(then, packetId);
      }),
      event(1.5, async (then) => {
        const packetId = await this.send(then, "xavier.blanc", "maren", all);
        await walkThrough(then, packetId, { AdultIntake: { values: { "first-name": "Xavier" } } }, undefined, false);
      }),
      event(0.6, async (then) => {
        const packetId = await this.send(then, "lorcan.moy", "tobias", all);
        await this.fill(then, packetId, intakeOf("lorcan.moy"), "Lorcan Moy");
      }),
      event(0.9, async (then) => {
        const packetId = await this.send(then, "delia.okoye", "salma", [this.intake]);
        await this.fill(then, packetId, intakeOf("delia.okoye"), "Delia Okoye");
        const view = must(await run(then, useCases.returnView, this.as("salma"), { packetId }));
        const line = view.parts[0]!.lines.find((one) => one.answer !== "")!;
        const lines = [{ partId: line.partId, key: line.key, reason: "Is this still how you spell it?" }];
        must(await run(then, useCases.sendBack, this.as("salma"), { packetId, requestId: this.request(), lines }));
      }),
      event(5, async (then) => {
        const packetId = await this.send(then, "cyrus.dane", "maren", [this.phq9]);
        must(await run(then, useCases.withdraw, this.as("maren"), { packetId }));
      }),
      event(2.5, async (then) => {
        await this.simulate(then, "bounce");
        await this.send(then, "wanda.ilic", "tobias", [this.intake]);
        await this.send(then, "victor.anand", "maren", [this.phq9]);
        await this.simulate(then, "deliver");
      }),
      ...(["quinn.harlow", "bettina.roth", "thea.bask"] as const).map((client, index) =>
        event(0.42 + index / 8, async (then) => {
          const packetId = await this.send(then, client, "maren", [this.phq9]);
          await walkThrough(then, packetId, { PHQ9: phq9(itemsFor(6 + 4 * index, false)) }, undefined, true);
        }),
      ),
    ];
  }
  private async fill(then: Application, packetId: Id<"Packet">, intake: Filled, signer: string): Promise<void> {
    const answers = {
      AdultIntake: intake,
      ConsentToCare: consentYes,
      PHQ9: phq9(itemsFor(9, false), "Somewhat difficult"),
    };
    await walkThrough(then, packetId, answers, signer, true);
    await runSeals(then);
  }
  private simulate = async (then: Application, simulation: "deliver" | "bounce"): Promise<void> =>
    void must(await run(then, useCases.simulatePost, this.as("maren"), { simulation }));
}
const noteText: Readonly<Record<string, string>> = {
  subjective: "Kept the sleep diary on five days. Two evenings without the phone.",
  assessment: "Sleeps better on the days with a walk. Worries less about the nights.",
  plan: "Diary goes on; one walk with a friend. Same measure before the next visit.",
};
