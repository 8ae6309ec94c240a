import { object, string } from "yup";
import type { FileProblem } from "../../core/files";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { StoredFile } from "../../db/repositories";
import {
  bytesInput,
  command,
  idInput,
  notFound,
  nothing,
  query,
  requestInput,
  takeFile,
  type CommonError,
} from "../kit";

export interface LeafletLine {
  readonly id: Id<"Leaflet">;
  readonly title: string;
  readonly createdAt: Instant;
  readonly retired: boolean;
}
export const leaflets = query({
  name: "leaflets",
  access: "library.read",
  input: nothing,
  async run({ repo, practice }): Promise<Result<LeafletLine[], never>> {
    return ok(
      (await repo.leaflets.all(practice.id)).map(({ id, title, createdAt, retiredAt }) => ({
        id,
        title,
        createdAt,
        retired: retiredAt !== null,
      })),
    );
  },
});
/** The request's id becomes the leaflet's and its file's, so that sending it twice keeps one. */
export const addLeaflet = command({
  name: "add-leaflet",
  access: "library.write",
  input: object({ requestId: requestInput, name: string().max(1000).default(""), bytes: bytesInput }),
  before: (ports, { name, bytes }) => takeFile(ports, name, bytes),
  async run(
    ctx,
    { requestId },
    taken,
  ): Promise<Result<{ id: Id<"Leaflet"> }, CommonError | { readonly reason: "refused"; readonly why: FileProblem }>> {
    if (!taken.ok) return fail({ reason: "refused", why: taken.error });
    const id = requestId as Id<"Leaflet">;
    const fileId = requestId as Id<"File">;
    const { title, type } = taken.value;
    const isNew = await ctx.repo.files.add(
      ctx.practice.id,
      { id: fileId, partId: null, title, contentType: type, size: taken.value.bytes.length, createdAt: ctx.now },
      taken.value.bytes,
    );
    // A file that has this id already is this leaflet's, or it is somebody's answer and no leaflet of anybody's.
    if (!isNew && !(await ctx.repo.leaflets.all(ctx.practice.id)).some((l) => l.id === id)) return notFound;
    const fresh = await ctx.repo.leaflets.add({ id, practiceId: ctx.practice.id, fileId, title, createdAt: ctx.now });
    ctx.journal(fresh ? "leaflet.add" : "leaflet.add-repeated", "practice", { leaflet: id });
    return ok({ id });
  },
});
/** It goes along no more; packets that went out with it still show it. */
export const retireLeaflet = command({
  name: "retire-leaflet",
  access: "library.write",
  input: object({ id: idInput<"Leaflet">() }),
  async run(ctx, { id }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.leaflets.retire(ctx.practice.id, id, ctx.now))) return notFound;
    ctx.journal("leaflet.retire", "practice", { leaflet: id });
    return ok(null);
  },
});

interface Given {
  readonly file: Pick<StoredFile, "title" | "contentType">;
  readonly bytes: Uint8Array;
}
export const openLeaflet = query({
  name: "open-leaflet",
  access: "library.read",
  input: object({ id: idInput<"Leaflet">() }),
  async run({ repo, practice }, { id }): Promise<Result<Given, CommonError>> {
    const found = (await repo.leaflets.all(practice.id)).find((l) => l.id === id);
    const held = found && (await repo.files.byId(practice.id, found.fileId));
    return held ? ok(held) : notFound;
  },
});
/** A leaflet that came with the client's packet. */
export const clientLeaflet = query({
  name: "client-leaflet",
  access: "client",
  input: object({ id: idInput<"Leaflet">() }),
  async run({ repo, practice, actor }, { id }): Promise<Result<Given, CommonError>> {
    const packet = await repo.packets.byId(practice.id, actor.packetId);
    const found = packet?.leaflets.includes(id)
      ? (await repo.leaflets.all(practice.id)).find((l) => l.id === id)
      : undefined;
    const held = found && (await repo.files.byId(practice.id, found.fileId));
    return held ? ok(held) : notFound;
  },
});
