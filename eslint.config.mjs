// Who may import whom, and the little that oxlint has no rule for; everything else is in .oxlintrc.json, at a fraction of the time.
import next from "@next/eslint-plugin-next";
import parser from "@typescript-eslint/parser";
import { defineConfig } from "eslint/config";
import boundaries from "eslint-plugin-boundaries";
import shortNames from "./scripts/lint-names.mjs";

const folder = (type, pattern) => ({ type, pattern, partialMatch: false });
const coreParts = [
  "core-audit",
  "core-shared",
  "core-questionnaire",
  "core-scoring",
  "core-chart",
  "core-signing",
  "core-consent",
  "core-notes",
  "core-measures",
  "core-messages",
  "core-scheduling",
  "core-packet",
  "core-forms",
  "core-team",
  "core-retention",
  "core-backup",
  "core-fhir",
  "core-proof",
  "core-starter",
  "core-xliff",
  "core-files",
  "core-worksheet",
];
const anyCore = coreParts;
/** The only packages the core may use: pure ones. */
const corePackages = [
  "yup",
  "saxes",
  "re2js",
  "@internationalized/date",
  "canonicalize",
  "@noble/hashes",
  "@noble/hashes/sha2.js",
  "@noble/hashes/utils.js",
  "minisearch",
  "papaparse",
  "libphonenumber-js/min",
];

/** Who may import whom; everything else is an error. Docs: architecture in the README. */
const allowed = {
  "core-shared": [],
  "core-audit": ["core-shared"],
  "core-questionnaire": ["core-shared"],
  "core-scoring": ["core-shared", "core-questionnaire"],
  "core-signing": ["core-shared", "core-questionnaire"],
  "core-consent": ["core-shared", "core-questionnaire", "core-signing"],
  "core-chart": ["core-shared", "core-questionnaire", "core-scoring"],
  "core-notes": ["core-shared", "core-questionnaire", "core-scoring"],
  "core-measures": ["core-shared", "core-questionnaire", "core-scoring", "core-scheduling", "core-chart"],
  "core-messages": ["core-shared"],
  "core-scheduling": ["core-shared"],
  "core-packet": ["core-shared", "core-messages", "core-questionnaire"],
  "core-forms": [
    "core-shared",
    "core-questionnaire",
    "core-scheduling",
    "core-team",
    "core-retention",
    "core-signing",
    "core-measures",
  ],
  "core-team": ["core-shared"],
  "core-backup": ["core-shared"],
  "core-retention": ["core-shared", "core-scheduling"],
  "core-fhir": anyCore,
  "core-starter": ["core-shared", "core-questionnaire"],
  "core-files": ["core-shared"],
  "core-worksheet": ["core-shared", "core-questionnaire"],
  "core-xliff": ["core-shared", "core-questionnaire"],
  "core-proof": ["core-shared", "core-questionnaire", "core-scoring", "core-chart", "core-signing"],
  "db-repositories": [...anyCore, "db"],
  db: [...anyCore, "db-repositories"],
  adapters: anyCore,
  usecases: [...anyCore, "db-repositories"],
  server: [...anyCore, "db", "db-repositories", "adapters", "usecases", "jobs"],
  jobs: [...anyCore, "db", "db-repositories", "usecases", "server"],
  "app-server": [...anyCore, "server", "ui", "i18n"],
  "app-root": [...anyCore, "server", "ui", "i18n", "app-server"],
  "app-staff": [...anyCore, "server", "ui", "i18n", "app-server"],
  "app-client": [...anyCore, "server", "ui", "i18n", "app-server"],
  "app-public": [...anyCore, "server", "ui", "i18n", "app-server"],
  "app-shared": [...anyCore, "server", "ui", "i18n", "app-server"],
  "app-api": [...anyCore, "server", "ui", "i18n", "app-server"],
  ui: [...anyCore, "i18n"],
  i18n: anyCore,
  root: ["server", "core-shared", "app-server"],
};

const elements = [
  ...coreParts.map((type) => folder(type, `src/core/${type.slice("core-".length)}`)),
  folder("db-repositories", "src/db/repositories"),
  folder("db", "src/db"),
  folder("adapters", "src/adapters"),
  folder("usecases", "src/usecases"),
  folder("server", "src/server"),
  folder("jobs", "src/jobs"),
  // Parentheses of route groups are pattern signs, so they are escaped.
  folder("app-server", "src/app/_server"),
  folder("app-staff", "src/app/\\(staff\\)"),
  folder("app-client", "src/app/\\(client\\)"),
  folder("app-public", "src/app/\\(public\\)"),
  folder("app-shared", "src/app/\\(shared\\)"),
  folder("app-api", "src/app/api"),
  folder("app-root", "src/app"),
  folder("ui", "src/ui"),
  folder("i18n", "src/i18n"),
  folder("root", "src"),
];

const policies = [
  ...Object.entries(allowed).map(([from, to]) => ({
    from: { element: { type: from } },
    allow: { to: { element: { types: { anyOf: [from, ...to] } } } },
  })),
  // Use cases know adapters by their types only; server hands them in.
  {
    from: { element: { type: "usecases" } },
    allow: { to: { element: { type: "adapters" } }, dependency: { kind: "type" } },
  },
  // What a use case answers is what a view is given: its type travels, nothing is retyped.
  {
    from: {
      element: {
        types: {
          anyOf: ["ui", "app-server", "app-root", "app-staff", "app-client", "app-public", "app-shared", "app-api"],
        },
      },
    },
    allow: { to: { element: { type: "usecases" } }, dependency: { kind: "type" } },
  },
];

const plainLink = {
  regex: "^next/link$",
  message: "Use Link from @/ui/link, which fetches nothing before it is followed.",
};

export default defineConfig(
  { ignores: ["src/db/migrations/**"] },
  {
    files: ["{src,tests,demo,bench,scripts}/**/*.{ts,tsx,mjs}"],
    languageOptions: { parser, parserOptions: { ecmaFeatures: { jsx: true } } },
    plugins: { names: { rules: { short: shortNames } } },
    rules: { "names/short": "error" },
  },
  { files: ["src/**/*.{ts,tsx}"], languageOptions: { parser, parserOptions: { ecmaFeatures: { jsx: true } } } },
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { boundaries },
    settings: {
      "boundaries/elements": elements,
      "import/resolver": { typescript: { alwaysTryTypes: true } },
    },
    rules: {
      "boundaries/dependencies": ["error", { default: "disallow", policies }],
      "boundaries/no-unknown-files": "error",
    },
  },
  {
    files: ["src/core/**/*.ts"],
    ignores: ["**/*.test.ts"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              regex: `^(?!\\.|(?:${corePackages.join("|")})$)`,
              message: `The core may use only: ${corePackages.join(", ")}.`,
            },
          ],
        },
      ],
      "no-restricted-syntax": [
        "error",
        {
          selector: 'NewExpression[callee.name="Date"][arguments.length=0]',
          message: "Time is an argument in the core.",
        },
        {
          selector: 'MemberExpression[object.name="Date"][property.name="now"]',
          message: "Time is an argument in the core.",
        },
        {
          selector: 'MemberExpression[object.name="Math"][property.name="random"]',
          message: "Randomness is an argument in the core.",
        },
      ],
    },
  },
  {
    files: ["src/{app,ui}/**/*.{ts,tsx}"],
    plugins: { "@next/next": next },
    rules: { "@next/next/no-location-assign-relative-destination": "error" },
  },
  {
    files: ["src/ui/**/*.{ts,tsx}"],
    ignores: ["src/ui/kit/link.tsx"],
    rules: { "no-restricted-imports": ["error", { patterns: [plainLink] }] },
  },
  {
    // Views run in the browser: what is not a route file or a server action may not reach the server's side.
    files: ["src/app/**/*.{ts,tsx}"],
    ignores: ["src/app/_server/**", "src/app/**/{page,layout,route,actions,error,not-found}.{ts,tsx}"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            { regex: "^@/server|_server/", message: "Views get data from their page and act through actions.ts." },
            plainLink,
          ],
        },
      ],
    },
  },
);
