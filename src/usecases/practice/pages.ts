import { boolean, mixed, object, string } from "yup";
import { isFinishAddress, type PagePolicy } from "../../core/packet";
import { isLanguageTag, ok, type Result } from "../../core/shared";
import { command, nothing, query, type CommonError } from "../kit";

export const pagePolicy = query({
  name: "page-policy",
  access: "office.write",
  input: nothing,
  async run({ repo, practice }): Promise<Result<PagePolicy, never>> {
    return ok(await repo.practices.pages(practice.id));
  },
});
const mostWords = 2000;
export const savePagePolicy = command({
  name: "save-page-policy",
  access: "office.write",
  input: object({
    look: boolean().default(false),
    oneByOne: boolean().default(false),
    finishAddress: string()
      .trim()
      .default("")
      .test(
        "https",
        "Type an address that begins with https://, such as https://rooms.example/after.",
        (v) => v === "" || isFinishAddress(v),
      ),
    finish: mixed<Readonly<Record<string, string>>>(
      (v): v is Readonly<Record<string, string>> =>
        typeof v === "object" &&
        v !== null &&
        Object.entries(v).every(([language, text]) => isLanguageTag(language) && typeof text === "string"),
    )
      .default({})
      .test("length", `Keep each text under ${mostWords} characters.`, (texts) =>
        Object.values(texts).every((text) => text.length <= mostWords),
      ),
  }),
  async run(ctx, { look, oneByOne, finishAddress, finish }): Promise<Result<null, CommonError>> {
    const texts = Object.fromEntries(
      Object.entries(finish)
        .map(([l, text]) => [l, text.trim()] as const)
        .filter(([, text]) => text !== ""),
    );
    await ctx.repo.practices.setPages(ctx.practice.id, { look, oneByOne, finishAddress, finish: texts });
    ctx.journal("pages.policy", "practice", {
      look,
      oneByOne,
      languages: Object.keys(texts).length,
      address: finishAddress !== "",
    });
    return ok(null);
  },
});
