import { describe, expect, test } from "vitest";
import { BOUNCE_FORMS } from "../mail/bounces/sortBounce";
import { splitMessage } from "../mail/splitMessage";
import { PIECES, slowPieces } from "./slowPieces";

/**
 * What comes from outside may be as long as a mail and written to be slow. Every exported function of core whose first
 * argument is a text or octets is found here by its source, so that a new one is measured without being named.
 */
const SOURCES = import.meta.glob<string>(["../**/*.ts", "!../**/*.test.ts", "!../testing/**"], {
  query: "?raw",
  import: "default",
  eager: true,
});
const MODULES = import.meta.glob<Record<string, unknown>>(
  ["../**/*.ts", "!../**/*.test.ts", "!../testing/**"],
  { eager: true },
);
const FIRST = /^export function (\w+)(?:<[^>]*>)?\(\s*\w+: (string|Uint8Array)[,)]/gm;

type Run = (text: string) => unknown;
type Parser = [name: string, run: Run];

const words = {
  cohorts: [{ name: "Wire Walk", kind: "class", coach: "Petra Dunmore" }],
  sites: ["Mill Loft"],
  levels: ["4"],
  columns: [{ name: "Allergies", values: ["nuts"] }],
  season: "2026-27",
  people: () => [],
  peopleLike: () => [],
};
/** What else some functions are given. */
const MORE: Record<string, readonly unknown[]> = {
  readAddress: [new Map([["oakmail.example", 50]])],
  completeAudience: [words],
  parseListAddress: ["lists.copperwheel.example"],
  splitPeople: [{ isOrdered: false }],
};
/** These only ever see what Amigo itself has made, or a word of the program's own. */
const OWN = new Set(["unpackFacts", "unpackOrigin"]);

const found: Parser[] = Object.entries(SOURCES).flatMap(([path, source]) =>
  [...source.matchAll(FIRST)].flatMap(([, name = "", kind]): Parser[] => {
    const run = MODULES[path]?.[name] as (first: unknown, ...more: readonly unknown[]) => unknown;
    if (OWN.has(name)) return [];
    return [
      [
        name,
        (text) =>
          run(kind === "string" ? text : new TextEncoder().encode(text), ...(MORE[name] ?? [])),
      ],
    ];
  }),
);
const bounces: Parser[] = BOUNCE_FORMS.flatMap(({ id, read }): Parser[] => {
  const split = splitMessage(
    new TextEncoder().encode("X-Failed-Recipients: a@oakmail.example\r\n\r\n"),
  );
  const mail = { split, returnPath: "", subject: "failure notice", text: "", report: "" };
  return [
    [`${id} (text)`, (text) => read({ ...mail, text })],
    [`${id} (report)`, (report) => read({ ...mail, report })],
    [`${id} (subject)`, (subject) => read({ ...mail, subject })],
  ];
});

/** What may stand before the rest, so that a pattern that needs a beginning gets as far as its slow part. */
const BEGINNINGS = [
  "",
  "Reason:",
  "Recipient: a@b.example\nReason:",
  "--- transcript of session follows ---\n",
];

describe("however a text is written, the work grows with its length and not faster", () => {
  test("the functions are found", () => {
    const names = found.map(([name]) => name);
    for (const name of ["readAddress", "splitAddresses", "refusalIn", "tidyLine", "tokens"])
      expect(names).toContain(name);
    expect(names.length).toBeGreaterThan(60);
  });

  test.each([
    ...found.map((parser) => [...parser, [""]] as const),
    ...bounces.map((bounce) => [...bounce, BEGINNINGS] as const),
  ])("%s", (_, run, beginnings) => {
    expect(slowPieces(run, PIECES, beginnings)).toEqual([]);
  });
});
