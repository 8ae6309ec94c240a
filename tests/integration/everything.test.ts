import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { unzipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { packEverything, useCases } from "../../src/server";
import type { Id } from "../../src/core/shared";
import { fhirProblems } from "../support/fhir";
import { kinds, World } from "../support/world";

const folder = mkdtempSync(join(tmpdir(), "kl-everything-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe.each(kinds)("what there is about somebody, on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const maren = () => world.as("maren");
  async function packed(clientId: string) {
    const { pieces } = must(await packEverything(world.app, maren(), clientId));
    const bytes: Uint8Array[] = [];
    const told: { done: number; all: number }[] = [];
    for await (const piece of pieces)
      if ("bytes" in piece) bytes.push(piece.bytes);
      else told.push(piece);
    return { zip: Buffer.concat(bytes), told };
  }

  it("is one ZIP file of papers, FHIR, files and journal, and opens no door", async () => {
    const clientId = must(
      await world.do(useCases.addClient, maren(), {
        requestId: world.request(),
        firstName: "Larkin",
        lastName: "Quist",
        email: "larkin@mail.example",
        birthDate: "1990-03-04",
        anyway: true,
      }),
    ).id;
    must(
      await world.do(useCases.addRelation, maren(), {
        requestId: world.request(),
        clientId,
        firstName: "Teasel",
        lastName: "Quist",
        kind: "partner",
        email: "teasel@mail.example",
      }),
    );
    const packetId = must(
      await world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        clientId,
        questionnaireIds: world.seeded.questionnaires,
      }),
    ).packetId;
    const token = await world.tokenOf(packetId);
    await world.fill(packetId);
    const reach = must(await world.do(useCases.reachView, maren(), { clientId }));
    must(
      await world.do(useCases.changeIdentity, maren(), {
        clientId,
        firstName: "Larkin",
        lastName: "Quist-Marsh",
        preferredName: "",
        birthDate: "1990-03-04",
        seen: reach.identity.seen,
      }),
    );
    must(await world.do(useCases.beginNote, maren(), { packetId, requestId: world.request() }));
    const { zip, told } = await packed(clientId);
    expect(told.at(-1)).toEqual({ done: 4, all: 4 });
    expect(told[0]).toEqual({ done: 0, all: 4 });
    const path = join(folder, `${kind}.zip`);
    writeFileSync(path, zip);
    // Another program's reading of the same file.
    expect(execFileSync("/usr/bin/python3", ["-m", "zipfile", "-t", path]).toString()).toContain("Done testing");
    const files = unzipSync(zip);
    expect(Object.keys(files).toSorted()).toEqual([
      "READ ME.txt",
      "about.pdf",
      expect.stringMatching(/^answers\/001 .+\.pdf$/),
      expect.stringMatching(/^answers\/002 .+\.pdf$/),
      expect.stringMatching(/^answers\/003 .+\.pdf$/),
      "journal.csv",
      "record.json",
    ]);
    for (const name of Object.keys(files).filter((one) => one.endsWith(".pdf"))) {
      const pdf = join(folder, "one.pdf");
      writeFileSync(pdf, files[name]!);
      expect(execFileSync("qpdf", ["--check", pdf]).toString(), name).toContain("No syntax or stream encoding errors");
    }
    writeFileSync(join(folder, "about.pdf"), files["about.pdf"]!);
    const words = execFileSync("pdftotext", ["-layout", join(folder, "about.pdf"), "-"]).toString();
    for (const word of ["Larkin Quist-Marsh", "Teasel Quist", "partner", "Quist", "larkin@mail.example", "Notes"])
      expect(words).toContain(word);
    const bundle = JSON.parse(Buffer.from(files["record.json"]!).toString()) as {
      entry: { resource: { resourceType: string } }[];
    };
    expect(fhirProblems(bundle)).toEqual([]);
    const types = new Set(bundle.entry.map(({ resource }) => resource.resourceType));
    expect([...types].toSorted()).toEqual([
      "Communication",
      "Consent",
      "DocumentReference",
      "Observation",
      "Patient",
      "Provenance",
      "QuestionnaireResponse",
      "RelatedPerson",
    ]);
    const rows = parse(Buffer.from(files["journal.csv"]!), { bom: true, columns: true }) as { what: string }[];
    expect(rows.map(({ what }) => what)).toEqual(expect.arrayContaining(["Sent", "Returned", "A client was added"]));
    // The letter's link would let whoever gets the file in.
    for (const name of Object.keys(files)) expect(Buffer.from(files[name]!).includes(Buffer.from(token))).toBe(false);
    expect(words).not.toContain(token);
    expect(await world.journal(`client:${clientId}`)).toContain("everything.export");
  });

  it("holds the files they gave, byte for byte", async () => {
    const clientId = world.seeded.clients["ines"]!;
    const packetId = await world.send("ines");
    const [part] = await world.repo.packets.parts(packetId);
    const bytes = Buffer.from("%PDF-1.4 not really, but theirs");
    await world.repo.files.add(
      (await world.app.practice())!.id,
      {
        id: world.request() as Id<"File">,
        partId: part!.id,
        contentType: "application/pdf",
        size: bytes.length,
        title: "../../Referral: <letter>.pdf",
        createdAt: world.time,
      },
      bytes,
    );
    const files = unzipSync((await packed(clientId)).zip);
    const name = Object.keys(files).find((one) => one.startsWith("files/"))!;
    expect(name).toBe("files/001 .. .. Referral letter .pdf");
    expect(Buffer.from(files[name]!)).toEqual(bytes);
  });

  it("is for nobody who may not take charts out, and not about whoever is not in sight", async () => {
    const clientId = world.seeded.clients["ines"]!;
    for (const who of ["pia"] as const)
      expect(await packEverything(world.app, world.as(who), clientId)).toMatchObject({
        error: { reason: "not-allowed" },
      });
    expect(await packEverything(world.app, world.stranger, clientId)).toMatchObject({
      error: { reason: "not-allowed" },
    });
    expect(await packEverything(world.app, maren(), world.request())).toMatchObject({ error: { reason: "not-found" } });
    expect(readFileSync(join(folder, `${kind}.zip`)).length).toBeGreaterThan(1000);
  });
});
