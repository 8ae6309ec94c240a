// `npm run data-model`: writes docs/data-model.md, the tables and what they point at, from the schema itself.
import { readdirSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { is } from "drizzle-orm";
import { getTableConfig, PgTable } from "drizzle-orm/pg-core";

const schemaFolder = "src/db/schema";
export const dataModelFile = "docs/data-model.md";

const plain = (text: string): string => text.replace(/[^\w]+/g, "_").replace(/^_|_$/g, "");

/**
 * A Mermaid drawing (entity relationship diagram) for each file of the schema: its tables in full, what they point at
 * by name.
 */
export async function dataModel(): Promise<string> {
  const files = readdirSync(schemaFolder).filter((file) => !["index.ts", "columns.ts"].includes(file));
  const drawings = await Promise.all(
    files.sort().map(async (file) => {
      const exported = Object.values((await import(`../${schemaFolder}/${file}`)) as Record<string, unknown>);
      return `## ${file.replace(".ts", "")}\n\n\`\`\`mermaid\nerDiagram\n${exported
        .filter((value): value is PgTable => is(value, PgTable))
        .sort((one, other) => getTableConfig(one).name.localeCompare(getTableConfig(other).name, "en"))
        .map(drawingOf)
        .join("\n")}\n\`\`\``;
    }),
  );
  return `# Data model

Made from \`${schemaFolder}\` by \`npm run data-model\`; a test notices when it is out of date. PK is a primary key, FK points at another table, UK is unique.
What is \`bytea\` and called sealed is encrypted (see [architecture](architecture.md)).

${drawings.join("\n\n")}
`;
}
function drawingOf(table: PgTable): string {
  const { name, columns, foreignKeys, primaryKeys, uniqueConstraints } = getTableConfig(table);
  const references = foreignKeys.map((key) => key.reference());
  const pointing = new Set(references.flatMap((reference) => reference.columns.map((column) => column.name)));
  const keys = new Set(primaryKeys.flatMap((key) => key.columns.map((column) => column.name)));
  const unique = new Set(uniqueConstraints.flatMap((constraint) => constraint.columns.map((column) => column.name)));
  const lines = columns.map((column) => {
    const marks = [
      column.primary || keys.has(column.name) ? "PK" : "",
      pointing.has(column.name) ? "FK" : "",
      column.isUnique || unique.has(column.name) ? "UK" : "",
    ].filter((mark) => mark !== "");
    const keyed = marks.length > 0 ? ` ${marks.join(", ")}` : "";
    return `    ${plain(column.getSQLType())} ${column.name}${keyed}${column.notNull ? "" : ' "may be empty"'}`;
  });
  const arrows = references.map(
    ({ foreignTable, columns: own }) =>
      `  ${getTableConfig(foreignTable).name} ||--o{ ${name} : "${own.map((column) => column.name).join(", ")}"`,
  );
  return [`  ${name} {`, ...lines, "  }", ...new Set(arrows)].join("\n");
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(dataModelFile, await dataModel());
