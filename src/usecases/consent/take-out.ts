import { object } from "yup";
import { nameOf, writeTable } from "../../core/chart";
import { consentWords } from "../../core/consent";
import { writeConsent, type JsonObject } from "../../core/fhir";
import { canonicalText } from "../../core/signing";
import { ok, type Id, type Result } from "../../core/shared";
import { command, idInput, nothing, notFound, type CommonError } from "../kit";
import { validOf, type Reading } from "../signing/standing";
import { registerLines } from "./lines";
import { consentView } from "./register";

/** Every consent of one client as FHIR R4: a Consent and its Provenance for each. */
export async function consentResources(
  ctx: Reading,
  client: { readonly id: Id<"Client">; readonly firstName: string; readonly lastName: string },
): Promise<JsonObject[]> {
  const { repo, practice } = ctx;
  const out: JsonObject[] = [];
  for (const line of await registerLines(ctx, [client.id]))
    for (const [index, one] of line.given.entries()) {
      const questionnaire = await repo.versions.definition(one.versionId);
      const signatures = await validOf(ctx, one.partId);
      out.push(
        ...writeConsent({
          id: one.id,
          client: { id: client.id, name: nameOf(client) },
          practice: practice.name,
          title: questionnaire.title,
          url: questionnaire.url,
          version: questionnaire.version,
          from: one.from,
          until: one.until,
          withdrawnAt: one.withdrawnAt,
          renewed: index < line.given.length - 1,
          responseId: one.partId,
          signatures: signatures.map((s) => ({
            statement: s.statement,
            data: Buffer.from(canonicalText(s.statement), "utf8").toString("base64"),
            as: s.evidence?.as === "client" ? "client" : "other",
          })),
        }),
      );
    }
  return out;
}
export const exportConsents = command({
  name: "export-consents",
  access: "export",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<JsonObject, CommonError>> {
    const client = await ctx.repo.clients.byId(ctx.practice.id, clientId);
    if (!client) return notFound;
    const resources = await consentResources(ctx, client);
    ctx.journal("consents.export", `client:${clientId}`);
    return ok({
      resourceType: "Bundle",
      type: "collection",
      timestamp: ctx.now,
      entry: resources.map((resource) => ({
        fullUrl: `${ctx.origin}/fhir/${String(resource["resourceType"])}/${String(resource["id"])}`,
        resource,
      })),
    });
  },
});
/** The whole register as CSV (RFC 4180). */
export const consentsTable = command({
  name: "consents-table",
  access: "export",
  input: nothing,
  async run(ctx): Promise<Result<string, CommonError>> {
    const clients = (await ctx.directory()).all("left-out").filter((c) => !c.isTest);
    const names = new Map(clients.map((c) => [c.id as string, nameOf(c)]));
    const lines = await registerLines(
      ctx,
      clients.map((c) => c.id),
      true,
    );
    const rows: string[][] = [];
    for (const line of lines) {
      const name = names.get(line.clientId) ?? "";
      if (line.given.length === 0)
        rows.push([name, line.text.title, "", consentWords[line.state], "", "", "", "", "", "", "", ""]);
      for (const [index, one] of line.given.entries()) {
        const renewed = line.given[index + 1]?.from;
        const view = await consentView(ctx, one, renewed);
        rows.push([
          name,
          line.text.title,
          view.version,
          renewed ? "Renewed" : consentWords[line.state],
          view.by.join("; "),
          view.from,
          view.until ?? "",
          view.talk?.on ?? "",
          view.withdrawnAt ?? "",
          view.withdrawnBy ?? "",
          view.reason ?? "",
          renewed ?? "",
        ]);
      }
    }
    ctx.journal("consents.export", "practice", { rows: rows.length });
    return ok(
      writeTable([
        [
          "Client",
          "Consent",
          "Version",
          "State",
          "Given by",
          "Valid from",
          "Valid until",
          "Talked over",
          "Withdrawn",
          "Withdrawn by",
          "Why",
          "Renewed",
        ],
        ...rows,
      ]),
    );
  },
});
