import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";
import { noImportCircles } from "./scripts/lint/noImportCircles.mjs";
import { useRefusals } from "./scripts/lint/useRefusals.mjs";

const PACKAGES = [
  "language",
  "core",
  "contract",
  "server",
  "web",
  "mailtown",
  "demo",
  "e2e",
  "bench",
];

/** Which of our packages each may import: docs/architecture.md, "Folders". */
const MAY_IMPORT = {
  language: [],
  core: ["language"],
  contract: ["language", "core"],
  server: ["language", "core", "contract"],
  web: ["language", "core", "contract"],
  mailtown: [],
  demo: ["language", "core", "contract", "server"],
  e2e: PACKAGES,
  bench: PACKAGES,
};

/** The server's folders from the ground up. A folder imports from those before it, never from its like. */
const SERVER_FLOORS = [
  ["db"],
  ["texts"],
  ["callers"],
  ["http"],
  ["events"],
  ["relay"],
  ["facts", "pdf"],
  ["accounts", "membership"],
  ["posting"],
  ["calendar"],
  ["change"],
  ["rounds"],
  ["drafts"],
  [
    "board",
    "dates",
    "edits",
    "forms",
    "house",
    "intakes",
    "journal",
    "leave",
    "lists",
    "mail",
    "member",
    "notes",
    "people",
    "posts",
    "private",
    "requests",
    "shelf",
    "sources",
    "staff",
  ],
  ["backup", "dav", "desk", "reach", "trace"],
  ["jobs"],
  ["watch"],
];

/** The places of the interface, which know nothing of each other, and what they share. */
const WEB_PLACES = [
  "accounts",
  "board",
  "changes",
  "dates",
  "forms",
  "house",
  "intakes",
  "list",
  "lists",
  "mail",
  "member",
  "people",
  "reach",
  "requests",
  "sources",
  "start",
];

/** Pieces of the interface that several places share, by what they are about. They know the widgets, and no place. */
const WEB_SHARED = ["audience", "edits", "posts", "rules", "shelf", "staff"];

const folderRule = (patterns) => [
  "error",
  { patterns: patterns.map(({ group, message }) => ({ group, message })) },
];

const betweenPackages = (own) => {
  const forbidden = PACKAGES.filter((other) => other !== own && !MAY_IMPORT[own].includes(other));
  return [
    ...(forbidden.length === 0
      ? []
      : [
          {
            group: forbidden.map((other) => `@amigo/${other}/*`),
            message: `${own}/ may not import this package.`,
          },
        ]),
    {
      group: PACKAGES.map((other) => `**/../${other}/**`).concat(own === "core" ? ["node:*"] : []),
      message: "Import other packages by their name (@amigo/…); core does no I/O.",
    },
  ];
};

const packageRules = PACKAGES.map((own) => ({
  files: [`${own}/**/*.{ts,tsx}`],
  rules: { "no-restricted-imports": folderRule(betweenPackages(own)) },
}));

const serverRules = SERVER_FLOORS.flatMap((floor, height) =>
  floor.map((own) => {
    const forbidden = [...SERVER_FLOORS.slice(height).flat()].filter((other) => other !== own);
    return {
      files: [`server/${own}/**/*.ts`],
      ignores: ["**/*.test.ts"],
      rules: {
        "no-restricted-imports": folderRule([
          ...betweenPackages("server"),
          ...(forbidden.length === 0
            ? []
            : [
                {
                  group: forbidden.map((other) => `../${other}/*`),
                  message: `server/${own} stands below or beside this folder; move what both need down to a named place.`,
                },
              ]),
        ]),
      },
    };
  }),
);

const webRules = [
  ...WEB_PLACES.map((own) => [own, WEB_PLACES.filter((other) => other !== own)]),
  ...WEB_SHARED.map((own) => [own, [...WEB_PLACES, "app"]]),
  ["ui", [...WEB_PLACES, ...WEB_SHARED, "app"]],
  ["data", [...WEB_PLACES, ...WEB_SHARED, "app", "ui"]],
].map(([own, forbidden]) => ({
  files: [`web/${own}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": folderRule([
      ...betweenPackages("web"),
      {
        group: forbidden.map((other) => `../${other}/*`),
        message: `web/${own} may not import this place; what two places share moves to web/ui (widgets), web/data or a folder of its own.`,
      },
    ]),
  },
}));

/** Who writes memberships: all that changes who is on a list goes through there, so that what is shown beforehand is what is done. */
const ONE_DOOR = "Only server/change/membershipQueries.ts begins and ends memberships; call it.";
const WRITES_MEMBERSHIPS = ["server/change/membershipQueries.ts"];

/** Tests, stories and measurements read from top to bottom, however long they are. */
const READ_FROM_TOP = ["**/*.test.ts", "**/*.test.tsx", "**/testing/**", "e2e/**", "bench/**"];

export default tseslint.config(
  {
    ignores: [
      "**/dist/**",
      "**/node_modules/**",
      ".amigo*/**",
      ".stryker/**",
      "server/db/migrations/**",
    ],
  },
  ...tseslint.configs.strict,
  {
    files: ["**/*.{ts,tsx}"],
    plugins: { amigo: { rules: { "no-import-circles": noImportCircles } } },
    rules: {
      "amigo/no-import-circles": "error",
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/consistent-type-imports": ["error", { fixStyle: "inline-type-imports" }],
      "@typescript-eslint/no-invalid-void-type": "off",
      "@typescript-eslint/no-dynamic-delete": "off",
      "@typescript-eslint/no-unused-vars": [
        "error",
        { argsIgnorePattern: "^_", varsIgnorePattern: "^_" },
      ],
      "no-console": "error",
      eqeqeq: ["error", "always", { null: "ignore" }],
      "no-control-regex": "off",
    },
  },
  {
    files: ["**/*.{ts,tsx}"],
    ignores: [...READ_FROM_TOP],
    rules: {
      "max-lines-per-function": ["error", { max: 80, skipBlankLines: true, skipComments: true }],
      complexity: ["error", 20],
    },
  },
  {
    // Most lines of a component are its markup, which is read from top to bottom like the page that it draws.
    files: ["web/**/*.tsx"],
    ignores: [...READ_FROM_TOP],
    rules: {
      "max-lines-per-function": ["error", { max: 140, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ["**/*.{ts,tsx}"],
    ignores: [...READ_FROM_TOP],
    rules: { "max-lines": ["error", 300] },
  },
  {
    files: ["server/**/*.ts"],
    // Removing a person's data and what is over its time changes no list's members: it takes them out of history.
    ignores: [
      ...READ_FROM_TOP,
      ...WRITES_MEMBERSHIPS,
      "server/people/removalQueries.ts",
      "server/retention/overTime.ts",
    ],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector:
            "CallExpression[callee.property.name=/^(insert|update|delete)$/][arguments.0.name='membership']",
          message: ONE_DOOR,
        },
        {
          selector: "TemplateElement[value.raw=/(insert into|update|delete from) membership\\b/]",
          message: ONE_DOOR,
        },
      ],
    },
  },
  {
    files: ["server/**/*.ts"],
    // Here requests are answered.
    ignores: ["server/http/**", "server/makeApp.ts", ...READ_FROM_TOP],
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { refusals: { rules: { use: useRefusals } } },
    rules: { "refusals/use": "error" },
  },
  {
    files: ["web/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  { files: ["**/main.ts", "e2e/takeScreenshots.ts", "bench/**"], rules: { "no-console": "off" } },
  ...packageRules,
  ...serverRules,
  ...webRules,
  {
    files: ["**/*.test.ts", "**/*.test.tsx", "**/testing/**"],
    rules: { "no-restricted-imports": "off" },
  },
);
