import { deflateSync } from "node:zlib";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { pdfForms } from "../../src/adapters/pdf-forms";
import { sharpPictures } from "../../src/adapters/pictures";
import { standInScanner } from "../../src/adapters/scanner";
import { cleanTitle, sniff } from "../../src/core/files";
import { readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import {
  allQuestions,
  emptyQuestionnaire,
  hasOptions,
  kindOf,
  type Answers,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { sheetItems, sheetValues } from "../../src/core/worksheet";
import { takeFile } from "../../src/usecases/kit";
import { checkByQpdf, fieldsByQpdf, plainSheet, rawPdf, sleepDiary, textByPoppler, throughQpdf } from "../support/pdf";

const ports = { pdf: pdfForms, pictures: sharpPictures, scanner: standInScanner };
const why = async (name: string, bytes: Uint8Array): Promise<string> => {
  const taken = await takeFile(ports, name, bytes);
  return taken.ok ? "taken" : taken.error;
};
async function fill(...given: Parameters<typeof pdfForms.fill>): Promise<Uint8Array> {
  const filled = await pdfForms.fill(...given);
  if (!filled.ok) throw new Error(filled.error);
  return filled.value;
}

describe("a file from outside", () => {
  it("is known by what it holds, whatever it is called", async () => {
    const png = await sharp({ create: { width: 4, height: 4, channels: 3, background: "#fff" } })
      .png()
      .toBuffer();
    expect(sniff(png)).toBe("image/png");
    expect(sniff(new TextEncoder().encode("<svg onload=…"))).toBeUndefined();
    expect(await why("holiday.jpg", new TextEncoder().encode("MZ this is a program"))).toBe("wrong-type");
    expect(await why("a", new Uint8Array())).toBe("empty");
    expect(await why("a.pdf", new Uint8Array(10 * 1024 * 1024 + 1))).toBe("too-large");
    expect(await why("torn.png", png.subarray(0, 40))).toBe("broken-picture");
  });
  it("gets a name that no header, path or screen trips over", () => {
    expect(cleanTitle("../../etc/passwd", "application/pdf")).toBe("passwd.pdf");
    expect(cleanTitle('C:\\fake\\صورة "1".PNG', "image/jpeg")).toBe("صورة 1.jpg");
    expect(cleanTitle("a\r\nset-cookie: x.pdf", "application/pdf")).toBe("a set-cookie x.pdf");
    expect(cleanTitle(`${"x".repeat(300)}.png`, "image/png")).toHaveLength(84);
    expect(cleanTitle("\u202efdp.exe", "application/pdf")).toBe("fdp.pdf");
  });
  it("is drawn anew when it is a picture: upright, and without place, camera and time", async () => {
    const taken = await sharp({ create: { width: 40, height: 20, channels: 3, background: "#a33" } })
      .withMetadata({ orientation: 6 })
      .withExifMerge({ IFD0: { Make: "Lakeside" }, IFD3: { GPSLatitudeRef: "N", GPSLatitude: "54/1 27/1 0/1" } })
      .jpeg()
      .toBuffer();
    const withTail = Buffer.concat([taken, Buffer.from("<script>hidden</script>")]);
    expect((await sharp(taken).metadata()).exif?.includes("Lakeside")).toBe(true);
    const drawn = await sharpPictures.redraw(withTail, "image/jpeg");
    if (!drawn.ok) throw new Error(drawn.error);
    const kept = Buffer.from(drawn.value);
    const facts = await sharp(kept).metadata();
    expect([facts.exif, facts.xmp, facts.icc, facts.width, facts.height, facts.format]).toEqual([
      undefined,
      undefined,
      undefined,
      20,
      40,
      "jpeg",
    ]);
    for (const trace of ["Exif", "Lakeside", "hidden"]) expect(kept.includes(trace)).toBe(false);
  });
  it("is refused by the scanner stand-in when it holds the EICAR test string (eicar.org, 1999), wherever it stands", async () => {
    const eicar = "X5O!P%@AP[4\\PZX54(P^)7CC)7}$" + "EICAR-STANDARD-ANTIVIRUS-TEST-FILE!$H+H*";
    expect(await why("eicar.com", new TextEncoder().encode(eicar))).toBe("unsafe");
    expect(await why("sheet.pdf", new Uint8Array(Buffer.concat([plainSheet(), Buffer.from(eicar)])))).toBe("unsafe");
  });
});

const latin = (bytes: Uint8Array): string => Buffer.from(bytes).toString("latin1");
const tableOf = (bytes: Uint8Array): number => Number(/startxref\n(\d+)/.exec(latin(bytes))![1]);
const pointing = (bytes: Uint8Array, at: number): Uint8Array =>
  new Uint8Array(Buffer.from(`${latin(bytes).split("startxref")[0]!}startxref\n${at}\n%%EOF\n`, "latin1"));
const withoutTable = (bytes: Uint8Array): Uint8Array =>
  new Uint8Array(Buffer.from(latin(bytes).replace(/xref\n0 [^]*?trailer/, "trailer"), "latin1"));

describe("a PDF that is to be a worksheet", () => {
  const js = "<< /S /JavaScript /JS (app.alert\\(1\\)) >>";
  it.each<[string, () => Uint8Array, string]>([
    ["a plain one", plainSheet, "taken"],
    ["one with fields", () => sleepDiary(), "taken"],
    ["one whose objects are packed", () => throughQpdf(sleepDiary(), "--object-streams=generate"), "taken"],
    ["one that opens at its second page", () => sleepDiary("/OpenAction [4 0 R /Fit]"), "taken"],
    ["an encrypted one", () => throughQpdf(sleepDiary(), "--encrypt", "user", "owner", "256", "--"), "pdf-encrypted"],
    [
      "one encrypted without a password to open it",
      () => throughQpdf(sleepDiary(), "--encrypt", "", "owner", "256", "--"),
      "pdf-encrypted",
    ],
    ["one that runs JavaScript when opened", () => sleepDiary(`/OpenAction ${js}`), "pdf-script"],
    [
      "the same with its objects packed",
      () => throughQpdf(sleepDiary("/OpenAction 20 0 R", [js]), "--object-streams=generate"),
      "pdf-script",
    ],
    [
      "one with a script by name",
      () => sleepDiary("/Names << /JavaScript << /Names [(a) 20 0 R] >> >>", [js]),
      "pdf-script",
    ],
    [
      "one whose script's name is spelled in hex",
      () => sleepDiary("/OpenAction << /S /Java#53cript /JS (1) >>"),
      "pdf-script",
    ],
    ["one that starts a program", () => sleepDiary("/OpenAction << /S /Launch /F (calc.exe) >>"), "pdf-script"],
    [
      "one that sends its fields away",
      () => sleepDiary("/AA << /WC << /S /SubmitForm /F (https://elsewhere.example) >> >>"),
      "pdf-script",
    ],
    [
      "one with a file in it",
      () => sleepDiary("/Names << /EmbeddedFiles << /Names [(a) 20 0 R] >> >>", ["<< /Type /Filespec /F (a.exe) >>"]),
      "pdf-script",
    ],
    ["a torn one", () => sleepDiary().slice(0, 900), "pdf-no-table"],
    ["one in name only", () => new TextEncoder().encode("%PDF-1.7 and nothing more"), "pdf-no-table"],
    // ISO 32000-1, 7.5.4: readers that mend such a file each make up what is in it.
    ["one without a cross-reference table", () => withoutTable(sleepDiary()), "pdf-no-table"],
    ["one whose end points beside its table", () => pointing(sleepDiary(), 12), "pdf-no-table"],
    [
      "one torn inside its last object, its end put back",
      () => pointing(sleepDiary().slice(0, 900), 400),
      "pdf-no-table",
    ],
    [
      "one without a page",
      () => rawPdf(["<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [] /Count 0 >>"]),
      "pdf-broken",
    ],
    [
      "one that blows up when unpacked",
      () => {
        const packed = deflateSync(Buffer.alloc(60_000_000));
        return new Uint8Array(
          Buffer.concat([
            sleepDiary(),
            Buffer.from(
              `99 0 obj\n<< /Type /ObjStm /N 1 /First 4 /Filter /FlateDecode /Length ${packed.length} >>\nstream\n`,
            ),
            packed,
            Buffer.from(`\nendstream\nendobj\nstartxref\n${tableOf(sleepDiary())}\n%%EOF\n`),
          ]),
        );
      },
      "too-costly",
    ],
  ])("%s", async (_, bytes, said) => {
    expect(await why("sheet.pdf", bytes())).toBe(said);
  });

  const worksheet = async (bytes: Uint8Array): Promise<Questionnaire> => {
    const facts = await pdfForms.check(bytes);
    if (!facts.ok) throw new Error(facts.error);
    return {
      ...emptyQuestionnaire("urn:test:sheet", "Sleep diary", "worksheet", "x"),
      items: sheetItems(facts.value.fields, "urn:test:options"),
      sheet: { id: "00000000-0000-4000-8000-000000000001", title: "sleep.pdf", size: bytes.length, hash: "aGFzaA==" },
    };
  };
  it("asks for its fields in the order they are read, in its own words, and leaves out what is not the client's", async () => {
    const questionnaire = await worksheet(sleepDiary());
    expect(questionnaire.items.map((i) => i.text)).toEqual(["Page 1", "Page 2"]);
    expect(allQuestions(questionnaire).map((i) => [i.text, kindOf(i), i.required, i.maxLength])).toEqual([
      ["When did you go to bed?", "short-text", true, undefined],
      ["When did you get up?", "short-text", false, 5],
      ["Woke at night", "yes-no", false, undefined],
      ["Where did you sleep?", "drop-down", false, undefined],
      ["How did you sleep?", "one-of", false, undefined],
      ["What went through your mind?", "long-text", false, undefined],
    ]);
    expect(
      allQuestions(questionnaire)
        .filter((i) => hasOptions(kindOf(i)))
        .map((i) => i.options.map((o) => (o.value.type === "coding" ? o.value.value.display : ""))),
    ).toEqual([
      ["My own bed", "Elsewhere"],
      ["Well", "Badly"],
    ]);
    const again = readQuestionnaire(writeQuestionnaire(questionnaire));
    expect(again).toEqual({ ok: true, value: questionnaire });
  });
  it("comes back filled in and still open, as qpdf and poppler read it, in Arabic too", async () => {
    for (const bytes of [sleepDiary(), throughQpdf(sleepDiary(), "--object-streams=generate")]) {
      const questionnaire = await worksheet(bytes);
      const [bed, up, woke, where, how, mind] = allQuestions(questionnaire);
      const option = (i: number, of: typeof how) => of!.options[i]!.value;
      const answers: Answers = {
        rows: {},
        values: {
          [bed!.linkId]: [{ type: "string", value: "23:10" }],
          [up!.linkId]: [{ type: "string", value: "7 o\u2019clock sharp" }],
          [woke!.linkId]: [{ type: "boolean", value: true }],
          [where!.linkId]: [option(1, where)],
          [how!.linkId]: [option(1, how)],
          [mind!.linkId]: [{ type: "string", value: "Żółw, ليلة طويلة" }],
        },
      };
      const filled = await fill(bytes, sheetValues(questionnaire, answers));
      expect(fieldsByQpdf(filled)).toMatchObject({
        bed_at: "23:10",
        up_at: "7 o’c",
        wokeAtNight: "/Yes",
        slept: "/Badly",
        thoughts: "Żółw, ليلة طويلة",
      });
      expect(JSON.stringify(fieldsByQpdf(filled)["place"])).toContain("Elsewhere");
      expect(checkByQpdf(filled)).toContain("No syntax or stream encoding errors found");
      const seen = textByPoppler(filled);
      expect(seen).toContain("23:10");
      expect(seen).toContain("Sleep diary");

      // Open for more: the same fields, none of them locked, and what was left empty stays so.
      const more = await pdfForms.check(filled);
      expect(more.ok && more.value.fields.map((f) => f.name)).toEqual([
        "place",
        "up_at",
        "bed_at",
        "wokeAtNight",
        "thoughts",
        "slept",
      ]);
      expect(
        fieldsByQpdf(await fill(bytes, sheetValues(questionnaire, { rows: {}, values: {} })))["bed_at"] ?? "",
      ).toBe("");
    }
  });
});
