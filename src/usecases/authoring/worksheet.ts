import { object, string } from "yup";
import type { FileProblem } from "../../core/files";
import { emptyQuestionnaire, newLine, type Item, type Questionnaire } from "../../core/questionnaire";
import { sheetItems } from "../../core/worksheet";
import { fail, ok, type Id, type Result } from "../../core/shared";
import { bytesInput, command, idInput, notFound, query, requestInput, takeFile, type CommonError } from "../kit";
import { currentOf } from "./current";
import { addWithDraft } from "./drafts";

export type WorksheetError = CommonError | { readonly reason: "refused"; readonly why: FileProblem };

/**
 * Makes a worksheet of a PDF: a draft that asks for what its form asks for, in the form's order and with its labels.
 * One without a form is offered to the client to download, with a place for the finished file.
 */
export const newWorksheet = command({
  name: "new-worksheet",
  access: "library.write",
  input: object({ requestId: requestInput, name: string().max(1000).default(""), bytes: bytesInput }),
  before: (ports, { name, bytes }) => takeFile(ports, name, bytes),
  async run(ctx, { requestId }, taken): Promise<Result<{ id: Id<"Questionnaire">; fields: number }, WorksheetError>> {
    const id = requestId as Id<"Questionnaire">;
    if (!taken.ok) return fail({ reason: "refused", why: taken.error });
    const { title, sheet } = taken.value;
    if (!sheet) return fail({ reason: "refused", why: "wrong-type" });
    const url = `urn:uuid:${id}`;
    const fileId = requestId as Id<"File">;
    const questionnaire: Questionnaire = {
      ...emptyQuestionnaire(url, title.replace(/\.pdf$/, ""), "worksheet", "done"),
      items:
        sheet.fields.length > 0
          ? sheetItems(sheet.fields, `${url}/options`)
          : [
              {
                ...newLine("file", "done"),
                text: "Your finished sheet",
                required: true,
                help: "Fill in the sheet, then add the file here, or a photo of each page.",
              } as Item,
            ],
      sheet: {
        id: fileId,
        title,
        size: taken.value.bytes.length,
        hash: ctx.sha1(taken.value.bytes),
        sha256: ctx.sha256(taken.value.bytes),
      },
    };
    await ctx.repo.files.add(
      ctx.practice.id,
      {
        id: fileId,
        partId: null,
        title,
        contentType: taken.value.type,
        size: taken.value.bytes.length,
        createdAt: ctx.now,
      },
      taken.value.bytes,
    );
    await addWithDraft(ctx, id, questionnaire, "pdf");
    return ok({ id, fields: sheet.fields.length });
  },
});

/** The empty PDF of a worksheet. */
export const librarySheet = query({
  name: "library-sheet",
  access: "library.read",
  input: object({ id: idInput<"Questionnaire">() }),
  async run(ctx, { id }): Promise<Result<{ readonly title: string; readonly bytes: Uint8Array }, CommonError>> {
    const now = await currentOf(ctx, id);
    if (!now.ok) return now;
    const { sheet } = now.value.questionnaire;
    const bytes = sheet && (await ctx.repo.files.sheet(ctx.practice.id, sheet.id));
    return sheet && bytes ? ok({ title: sheet.title, bytes }) : notFound;
  },
});
