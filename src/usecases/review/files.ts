import { object } from "yup";
import { sheetValues, type SheetValue } from "../../core/worksheet";
import { ok, type Result } from "../../core/shared";
import type { StoredFile } from "../../db/repositories";
import { command, idInput, notFound, type CommonError } from "../kit";
import { isReturned, readParts, returnFrame } from "./returns";

interface Given {
  readonly file: Pick<StoredFile, "title" | "contentType">;
  readonly bytes: Uint8Array;
}

/** A file a client returned. */
export const openFile = command({
  name: "open-file",
  access: "answers.read",
  input: object({ fileId: idInput<"File">() }),
  async run(ctx, { fileId }): Promise<Result<Given, CommonError>> {
    const found = await ctx.repo.files.byId(ctx.practice.id, fileId);
    const of = found?.file.partId ? await ctx.repo.packets.part(ctx.practice.id, found.file.partId) : undefined;
    if (!found || !of || !isReturned(of.packet)) return notFound;
    ctx.journal("file.open", `packet:${of.packet.id}`, { file: fileId });
    return ok(found);
  },
});

export interface FilledSheet {
  readonly title: string;
  readonly blank: Uint8Array;
  readonly values: readonly SheetValue[];
}
/** The PDF of a returned worksheet and what the client answered, for whoever puts the one into the other. */
export const filledSheet = command({
  name: "filled-sheet",
  access: "answers.read",
  input: object({ partId: idInput<"Part">() }),
  async run(ctx, { partId }): Promise<Result<FilledSheet, CommonError>> {
    const found = await ctx.repo.packets.part(ctx.practice.id, partId);
    const frame = found && (await returnFrame(ctx, found.packet.id));
    if (!frame?.ok) return notFound;
    const part = (await readParts(ctx, frame.value.packet.id)).find((r) => r.part.id === partId);
    const sheet = part?.questionnaire.sheet;
    const blank = sheet && (await ctx.repo.files.sheet(ctx.practice.id, sheet.id));
    if (!part || !sheet || !blank) return notFound;
    ctx.journal("response.export", `packet:${frame.value.packet.id}`, { part: partId, as: "sheet" });
    return ok({ title: sheet.title, blank, values: sheetValues(part.questionnaire, part.answers) });
  },
});
