import { boolean, mixed, object, string } from "yup";
import { isFinishAddress, namesNumber, type PagePolicy } from "../../core/packet";
import { fail, isLanguageTag, ok, type Result } from "../../core/shared";
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
const byLanguage = () =>
  mixed<Readonly<Record<string, string>>>(
    (v): v is Readonly<Record<string, string>> =>
      typeof v === "object" &&
      v !== null &&
      Object.entries(v).every(([language, text]) => isLanguageTag(language) && typeof text === "string"),
  )
    .default({})
    .test("length", `Keep each text under ${mostWords} characters.`, (texts) =>
      Object.values(texts).every((text) => text.length <= mostWords),
    );
const filled = (texts: Readonly<Record<string, string>>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(texts)
      .map(([language, text]) => [language, text.trim()] as const)
      .filter(([, text]) => text !== ""),
  );
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
    clientNamed: mixed<NonNullable<PagePolicy["clientNamed"]>>()
      .oneOf(["first-name", "initials"])
      .default("first-name"),
    finish: byLanguage(),
    support: byLanguage(),
  }),
  async run(ctx, { look, oneByOne, finishAddress, finish, support, clientNamed }): Promise<Result<null, CommonError>> {
    const said = filled(support);
    const mute = Object.entries(said).filter(([, text]) => !namesNumber(text));
    if (mute.length > 0)
      return fail({
        reason: "invalid",
        fields: Object.fromEntries(
          mute.map(([language]) => [
            `support ${language}`,
            "Put a phone number into it, and when it is answered. Nothing was changed.",
          ]),
        ),
      });
    const texts = filled(finish);
    await ctx.repo.practices.setPages(ctx.practice.id, {
      look,
      oneByOne,
      finishAddress,
      finish: texts,
      support: said,
      clientNamed,
    });
    ctx.journal("pages.policy", "practice", {
      look,
      oneByOne,
      languages: Object.keys(texts).length,
      support: Object.keys(said).join(" "),
      clientNamed,
      address: finishAddress !== "",
    });
    return ok(null);
  },
});
