import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  compareVersions,
  contentOf,
  draftNote,
  habitOf,
  isEmptyDocument,
  isSafeAddress,
  laidOutAnew,
  linesOf,
  markdown,
  measureWords,
  notePlaceholders,
  plainText,
  quotesIn,
  readNote,
  readTakeHome,
  resolve,
  startingLayouts,
  unknownPlaceholders,
  type DraftFacts,
  type DraftSource,
  type NoteContent,
  type NoteValues,
} from "../../src/core/notes";
import { chartSections } from "../../src/core/chart";
import type { Instant } from "../../src/core/shared";

const at = "2026-11-24T17:10:00Z" as Instant;
const doc = (...content: unknown[]) => ({ type: "doc", content });
const text = (words: string, ...marks: unknown[]) => ({
  type: "text",
  text: words,
  ...(marks.length > 0 ? { marks } : {}),
});
const para = (...content: unknown[]) => ({ type: "paragraph", ...(content.length > 0 ? { content } : {}) });

const values = Object.fromEntries(notePlaceholders.map((name) => [name, `<${name}>`])) as unknown as NoteValues;
const source = (more: Partial<DraftSource> = {}): DraftSource => ({
  packetId: "k",
  partId: "p",
  kind: "intake",
  title: "Before your first visit",
  by: "Ines Halvorsen",
  at,
  uncharted: true,
  charted: { why: "concern", sleep: "food" },
  habit: {},
  lines: [
    ["why", "What brings you?", "I lie awake", "You"],
    ["sleep", "Hours of sleep", "5", "Your days"],
    ["kin", "Who is ill in the family?", "Nobody", "Family"],
    ["odd", "Favourite colour", "Blue", "You"],
    ["left", "Anything else?", "", "You"],
  ].map(([key, question, answer, section]) => ({
    kind: "quoted" as const,
    partId: "p",
    key: key!,
    questionnaire: "Before your first visit",
    section: section!,
    question: question!,
    answer: answer!,
  })),
  ...more,
});
const facts = (sources: readonly DraftSource[]): DraftFacts => ({
  sources,
  chart: {},
  measures: {
    m: {
      title: "PHQ-9",
      least: 0,
      most: 27,
      points: [
        { at, value: 16, band: "Moderately severe" },
        { at, value: 11, band: "Moderate" },
      ],
    },
  },
  values,
  language: "en",
  takeHomeValues: values,
});
const layout = (id: string) => startingLayouts.find((one) => one.id === id)!;
/** Under which heading each thing stands. */
function placed({ body }: NoteContent): Record<string, string> {
  const out: Record<string, string> = {};
  let heading = "";
  for (const block of body.content) {
    if (block.type === "heading") heading = block.attrs.section ?? "";
    else if (block.type === "measure") out[`plot ${block.attrs.measure}`] = heading;
    else if ("attrs" in block && "quote" in block.attrs) out[`${block.type} ${block.attrs.quote}`] = heading;
  }
  return out;
}

describe("a note's draft", () => {
  it("quotes what was answered in its section, leaves questions open there, and what belongs nowhere beside the page", () => {
    const content = draftNote(layout("first-assessment"), facts([source()]));
    expect(placed(content)).toEqual({
      "quoted p why": "reason",
      "quoted p sleep": "life",
      "quoted p kin": "family",
      "plot m": "scores",
    });
    // Neither charted anywhere nor under a heading of its words: it can be pulled in.
    expect(Object.keys(content.quotes).sort()).toEqual(["p kin", "p odd", "p sleep", "p why"]);
    expect(content.brought).toMatchObject([{ packetId: "k", answers: 3, uncharted: true }]);
    const soap = draftNote(layout("soap"), facts([source()]));
    expect(placed(soap)).toMatchObject({
      "quoted p odd": "subjective",
      "openPrompt p left": "subjective",
      "plot m": "objective",
    });
  });
  it("goes by what this practitioner did last time, and lays in neither agreements nor the questions of a measure", () => {
    const habit = { why: "think", sleep: "", odd: "seen", left: "seen" };
    const content = draftNote(layout("first-assessment"), facts([source({ habit })]));
    expect(placed(content)).toMatchObject({
      "quoted p why": "think",
      "quoted p odd": "seen",
      "openPrompt p left": "seen",
    });
    expect(placed(content)["quoted p sleep"]).toBeUndefined();
    // What it learns is what it did: laid out again by it, it is the same.
    const learned = Object.fromEntries(Object.entries(habitOf(content)).map(([key, to]) => [key.slice(2), to]));
    expect(placed(draftNote(layout("first-assessment"), facts([source({ habit: learned })])))).toEqual(placed(content));
    for (const kind of ["consent", "measure"] as const) {
      const none = draftNote(layout("soap"), facts([source({ kind })]));
      expect([quotesIn(none.body), Object.keys(none.quotes).length]).toEqual([[], 4]);
    }
  });
  it("has layouts whose sections have ids of their own and take what charts have, and whose placeholders all stand for something", () => {
    for (const { sections, takeHome, name } of startingLayouts) {
      expect(new Set(sections.map(({ id }) => id)).size, name).toBe(sections.length);
      expect(
        sections
          .flatMap(({ takes }) => takes ?? [])
          .filter((key) => !(chartSections as readonly string[]).includes(key)),
      ).toEqual([]);
      expect(sections.filter(({ rest }) => rest).length, name).toBeLessThanOrEqual(1);
      // What the client reads is headed in each of their languages.
      const heads = ["es", "fr", "ar"].map((language) =>
        draftNote(layout("soap"), { ...facts([]), language }).takeHome.content.flatMap((block) =>
          block.type === "heading" ? [JSON.stringify(block.content)] : [],
        ),
      );
      expect(new Set(heads.flat()).size).toBe(9);
      for (const { said } of takeHome) expect(Object.keys(said ?? {}).sort(), name).toEqual(["ar", "es", "fr"]);
      for (const section of [...sections, ...takeHome]) expect(unknownPlaceholders(section.text ?? "")).toEqual([]);
    }
    for (const name of notePlaceholders) expect(resolve(`a {{ ${name} }} b`, values)).toBe(`a <${name}> b`);
    expect(unknownPlaceholders("{{client.secret}} {{today}}")).toEqual(["client.secret"]);
    // What a value says is not read as a placeholder.
    expect(resolve("{{client.name}}", { ...values, "client.name": "{{today}}" })).toBe("{{today}}");
  });
  it("laid out anew, keeps every word somebody wrote, whichever layouts it goes between", () => {
    const first = draftNote(layout("first-assessment"), facts([source()]));
    const said = (words: string) => ({ type: "paragraph" as const, content: [{ type: "text" as const, text: words }] });
    const content = first.body.content.flatMap((block): (typeof block)[] => {
      if (block.type === "heading") return [block, said(`under ${block.attrs.section}`)];
      if (block.type === "quoted" && block.attrs.quote === "p why")
        return [{ type: "restated", attrs: block.attrs, content: [{ type: "text", text: "in my words" }] }];
      return block.type === "quoted" ? [{ ...block, attrs: { ...block.attrs, remark: "remarked" } }] : [block];
    });
    const written: NoteContent = {
      ...first,
      body: { type: "doc", content: [said("before all headings"), ...content] },
      takeHome: { type: "doc", content: [said("for you")] },
    };
    const own = (of: NoteContent) =>
      plainText(linesOf(of.body, of))
        .split("\n")
        .filter((line) => /under |before all|in my words|remarked/.test(line))
        .toSorted();
    let now = written;
    for (const { id } of [...startingLayouts, layout("first-assessment")]) {
      now = laidOutAnew(now, draftNote(layout(id), facts([source()])));
      expect(own(now), id).toEqual(own(written));
      expect(plainText(linesOf(now.takeHome)), id).toBe("for you");
      expect(readNote(now.body).ok, id).toBe(true);
      expect(quotesIn(now.body).filter((quote) => !now.quotes[quote])).toEqual([]);
    }
    // Where nothing is written below the line, it is the new layout's.
    const bare = laidOutAnew(first, draftNote(layout("physio-review"), facts([source()])));
    expect(JSON.stringify(bare.takeHome)).toContain("Your exercises");
  });
  it("reads what was kept before there were documents", () => {
    const kept = contentOf(
      [
        { kind: "own", id: "since", heading: "Since last time", text: "One\nTwo" },
        {
          kind: "quoted",
          partId: "p",
          key: "a",
          questionnaire: "Sleep",
          section: "",
          question: "How?",
          answer: "Well",
        },
      ],
      at,
    );
    expect(readNote(kept.body).ok).toBe(true);
    expect(plainText(linesOf(kept.body, kept))).toBe("Since last time\nOne\nTwo\nHow? Well");
  });
});

describe("what somebody sends as a note", () => {
  // After OWASP's "Cross Site Scripting Prevention" and its filter evasion list: what runs a script where a document is
  // trusted, as nodes, marks, attributes and addresses.
  const hostile: readonly (readonly [name: string, document: unknown])[] = [
    ["a script", doc({ type: "script", content: [text("alert(1)")] })],
    ["an image", doc({ type: "image", attrs: { src: "x", onerror: "alert(1)" } })],
    ["raw HTML", doc({ type: "html", text: "<img src=x onerror=alert(1)>" })],
    ["a frame", doc(para({ type: "iframe", attrs: { src: "javascript:alert(1)" } }))],
    ["a mark", doc(para(text("x", { type: "style", attrs: { style: "background:url(javascript:alert(1))" } })))],
    ...[
      "javascript:alert(1)",
      " javascript:alert(1)",
      "JaVaScRiPt:alert(1)",
      "java\nscript:alert(1)",
      "data:text/html,<script>alert(1)</script>",
      "vbscript:msgbox(1)",
      'https://x.example/"onmouseover=alert(1)',
      "//evil.example",
      "file:///etc/passwd",
      "blob:https://x.example/1",
    ].map((href) => [href, doc(para(text("x", { type: "link", attrs: { href } })))] as const),
    ["no document", { type: "paragraph" }],
    ["no object", "<script>"],
    ["a list of nothing", doc({ type: "bulletList", content: [para(text("x"))] })],
    ["empty text", doc(para({ type: "text", text: "" }))],
    ["text that is none", doc(para({ type: "text", text: { toString: "x" } }))],
    ["a prototype", JSON.parse('{"type":"doc","content":[{"type":"__proto__"}]}')],
  ];
  it.each(hostile)("%s is refused", (_name, document) => {
    expect(readNote(document).ok).toBe(false);
  });
  it("is built anew: what is not known stands in nothing that comes out", () => {
    const read = readNote(
      doc(
        { ...para(text("kept", { type: "bold", attrs: { onclick: "alert(1)" } })), attrs: { style: "x" }, onload: "x" },
        { type: "heading", attrs: { level: 1, onclick: "x", section: "s" }, content: [text("H")] },
        { type: "quoted", attrs: { quote: "p why", answer: "forged", remark: "r" } },
      ),
    );
    expect(read.ok && read.value).toEqual({
      type: "doc",
      content: [
        { type: "paragraph", content: [{ type: "text", text: "kept", marks: [{ type: "bold" }] }] },
        { type: "heading", attrs: { level: 2, section: "s", prompt: null }, content: [{ type: "text", text: "H" }] },
        { type: "quoted", attrs: { quote: "p why", remark: "r" } },
      ],
    });
  });
  it("nested or long without end is refused, and quickly", () => {
    let deep: unknown = para(text("x"));
    for (let level = 0; level < 5000; level++)
      deep = { type: "bulletList", content: [{ type: "listItem", content: [deep] }] };
    const began = performance.now();
    expect(readNote(doc(deep)).ok).toBe(false);
    expect(readNote(doc(...Array.from({ length: 30_000 }, () => para()))).ok).toBe(false);
    expect(readNote(doc(para(text("x".repeat(500_000))))).ok).toBe(false);
    expect(performance.now() - began).toBeLessThan(5000);
  });
  it("leads to pages, addresses and numbers, and nowhere else", () => {
    for (const href of ["https://fernhollow.example/a?b=c#d", "mailto:x@mail.example", "tel:+44 20 7946 0000"])
      expect(isSafeAddress(href), href).toBe(true);
  });
});

describe("below the line", () => {
  const secret = "SECRET-above-the-line";
  const inline = fc.array(
    fc.record({
      type: fc.constant("text"),
      text: fc.string({ minLength: 1, maxLength: 12 }).map((s) => `${s}${secret}`),
    }),
    { maxLength: 3 },
  );
  const above = fc.oneof(
    inline.map((content) => para(...content)),
    fc.record({
      type: fc.constant("heading"),
      attrs: fc.constant({ level: 2, section: null, prompt: secret }),
      content: inline,
    }),
    fc.record({ type: fc.constant("quoted"), attrs: fc.constant({ quote: "q", remark: secret }) }),
    fc.record({ type: fc.constantFrom("restated", "openPrompt"), attrs: fc.constant({ quote: "q" }), content: inline }),
    fc.record({ type: fc.constant("measure"), attrs: fc.constant({ measure: "m" }) }),
  );
  const below = fc.array(
    fc.string({ minLength: 1, maxLength: 20 }).map((words) => para(text(words.replaceAll(secret, "")))),
    { maxLength: 4 },
  );
  it("stands nothing of what is above it, whatever both are made of, and no node that names something above is taken", () => {
    fc.assert(
      fc.property(fc.array(above, { maxLength: 6 }), below, (own, theirs) => {
        const [body, takeHome] = [readNote(doc(...own)), readTakeHome(doc(...theirs))];
        if (!body.ok || !takeHome.ok) throw new Error("Both are documents.");
        const shared = JSON.stringify(takeHome.value) + plainText(linesOf(takeHome.value));
        expect(shared).not.toContain(secret);
        expect(quotesIn(takeHome.value as never)).toEqual([]);
        // Moved below as it is, what names the client's answers or a score is refused whole.
        const names = own.some((node) => ["quoted", "restated", "openPrompt", "measure"].includes(node.type));
        expect(readTakeHome(doc(...own)).ok).toBe(!names);
      }),
    );
  });
});

describe("a note written out", () => {
  const quotes = {
    q: {
      kind: "answer" as const,
      question: "How *is* it?",
      answer: "5 < 6 _now_",
      by: "Ines",
      at,
      source: "Sleep",
      section: "",
    },
  };
  const known = { quotes, measures: facts([]).measures };
  const body = readNote(
    doc(
      { type: "heading", attrs: { level: 2 }, content: [text("Seen")] },
      para(
        text("bold", { type: "bold" }),
        text(" and "),
        text("there", { type: "link", attrs: { href: "https://x.example" } }),
      ),
      {
        type: "orderedList",
        content: [
          {
            type: "listItem",
            content: [
              para(text("first")),
              { type: "bulletList", content: [{ type: "listItem", content: [para(text("inner"))] }] },
            ],
          },
        ],
      },
      {
        type: "table",
        content: [
          {
            type: "tableRow",
            content: [
              { type: "tableHeader", content: [para(text("A|B"))] },
              { type: "tableHeader", content: [para(text("C"))] },
            ],
          },
        ],
      },
      { type: "quoted", attrs: { quote: "q", remark: "ask again" } },
      { type: "openPrompt", attrs: { quote: "q" } },
      { type: "measure", attrs: { measure: "m" } },
      { type: "heading", attrs: { level: 2 }, content: [text("Nothing here")] },
      para(),
    ),
  );
  if (!body.ok) throw new Error(body.error.problem);
  const lines = linesOf(body.value, known);
  it("has what was written and no heading over nothing, in plain text and in Markdown (CommonMark 0.31)", () => {
    expect(plainText(lines)).toBe(
      [
        "Seen",
        "bold and there",
        "1. first",
        "  - inner",
        "A|B | C",
        "How *is* it? 5 < 6 _now_ (ask again)",
        "PHQ-9: 16, 11; 5 fewer than before, moderate",
      ].join("\n"),
    );
    expect(markdown(lines)).toBe(
      [
        "## Seen",
        "",
        "**bold** and [there](<https://x.example>)",
        "",
        "1. first",
        "   - inner",
        "",
        "| A\\|B | C |",
        "| --- | --- |",
        "",
        "> How \\*is\\* it?  ",
        "> **5 \\< 6 \\_now\\_**",
        "",
        "*ask again*",
        "",
        "PHQ-9: 16, 11; 5 fewer than before, moderate",
      ].join("\n"),
    );
    // What begins a line is not read as a list or a heading.
    expect(
      markdown([{ kind: "text", runs: [{ text: "1. no list", bold: false, italic: false, href: undefined }] }]),
    ).toBe("1\\. no list");
  });
  it("is empty where nothing stands under its headings but questions that are still open", () => {
    expect(isEmptyDocument(body.value)).toBe(false);
    expect(isEmptyDocument(draftNote(layout("soap"), { ...facts([]), measures: {} }).body)).toBe(true);
    expect(measureWords({ title: "M", points: [], least: 0, most: 1 })).toBe("M: not scored yet");
  });
  it("says line by line what another version has more and less", () => {
    const note = (...words: string[]): NoteContent => ({
      ...known,
      brought: [],
      body: {
        type: "doc",
        content: words.map((one) => ({ type: "paragraph", content: [{ type: "text", text: one }] })),
      },
      takeHome: { type: "doc", content: [{ type: "paragraph" }] },
    });
    expect(compareVersions(note("a", "b", "c"), note("a", "x", "c", "d")).map((l) => `${l.change} ${l.text}`)).toEqual([
      "same a",
      "removed b",
      "added x",
      "same c",
      "added d",
    ]);
    fc.assert(
      fc.property(fc.array(fc.constantFrom("a", "b", "c")), fc.array(fc.constantFrom("a", "b", "c")), (one, other) => {
        const compared = compareVersions(note(...one), note(...other));
        const kept = (not: string) => compared.filter((l) => l.change !== not).map((l) => l.text);
        expect([kept("added"), kept("removed")]).toEqual([one, other]);
      }),
    );
  });
});
