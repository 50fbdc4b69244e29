import fc from "fast-check";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Change } from "@amigo/core/step/change";
import type { EditPlan } from "../rounds/planEdit";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { openRoundOf, roundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
let source: { id: string };

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  source = { id: (await house.readLines(juno, sheet(FIRST), { name: "Evening" })).source };
  await house.step(juno);
  await keepOn("2:class:silks", "ropes@lettr.example");
  await keepOn("2:class:rope", "b@lettr.example");
});
afterAll(() => house.close());

/** A child as an office writes it down: the number and the columns that can change from week to week. */
interface Child {
  number: number;
  family: string;
  classes: string;
  address: string;
  second: string;
}

const CLASSES = ["Rope", "Silks", "Rope; Silks", "Diabolo", ""];
const ADDRESSES = [
  "",
  "a@lettr.example",
  "b@lettr.example",
  "c@oakmail.example",
  "d@fernpost.example",
];
const FIRST: Child[] = Array.from({ length: 8 }, (_, at) => ({
  number: at,
  family: `Family${at}`,
  classes: CLASSES[at % 3] ?? "",
  address: ADDRESSES[1 + (at % 4)] ?? "",
  second: "",
}));

function sheet(children: readonly Child[]): string[] {
  return [
    "Student no.,Surname,First name,Class,Parent 1,Email 1,Parent 2,Email 2",
    ...children.map(
      ({ number, family, classes, address, second }) =>
        `EV-${100 + number},${family},Child${number},${classes},${address === "" ? "" : `Ann ${family}`},${address},${second === "" ? "" : `Ben ${family}`},${second}`,
    ),
  ];
}

/** Somebody who is always on the list of a class, whatever becomes of the class. */
async function keepOn(list: string, address: string): Promise<void> {
  const { rows } = await house.amigo.context.db.execute<{ id: string }>(
    sql`select id from list where key = ${list}`,
  );
  const { status } = await juno.ask("POST", `/api/lists/${rows[0]?.id}/kept`, {
    address,
    side: "on",
    reason: "helps with the ropes",
    lastDay: "",
  });
  expect(status).toBe(200);
}

const child = (number: number) =>
  fc.record({
    number: fc.constant(number),
    family: fc.constant(`Family${number}`),
    classes: fc.constantFrom(...CLASSES),
    address: fc.constantFrom(...ADDRESSES),
    second: fc.constantFrom("", "", ...ADDRESSES),
  });

/** Next week's sheet: some children are missing, some new, most with something else in a column. */
const week = fc
  .subarray(
    Array.from({ length: 12 }, (_, at) => at),
    { minLength: 4 },
  )
  .chain((numbers) => fc.tuple(...numbers.map(child)));

/** Who is on which list: `key address`. */
async function members(): Promise<Set<string>> {
  const { rows } = await house.amigo.context.db.execute<{ place: string }>(
    sql`select list.key || ' ' || membership.address as place from membership join list on list.id = membership.list_id where membership.valid_until is null`,
  );
  return new Set(rows.map(({ place }) => place));
}

/** Who would be on which list once the accepted changes that the open round shows are done. */
async function previewed(round: number, before: ReadonlySet<string>): Promise<Set<string>> {
  const { rows } = await house.amigo.context.db.execute<{ changes: string }>(
    sql`select changes from cause where round = ${round} and decision = 'accepted' order by position`,
  );
  // Each change puts somebody on a list or takes them off. A class that is gone empties its lists after all else, whatever
  // place its cause has, so what the changes come to is their sum.
  const places = new Map([...before].map((place) => [place, 1]));
  const move = (place: string, by: number): void => {
    places.set(place, (places.get(place) ?? 0) + by);
  };
  for (const { list, kind, address, instead } of rows.flatMap(
    ({ changes }) => JSON.parse(changes) as Change[],
  )) {
    move(`${list} ${address}`, kind === "leaves" ? -1 : 1);
    if (instead !== undefined) move(`${list} ${instead}`, -1);
  }
  for (const [place, times] of places)
    expect([place, times >= 0 && times <= 1]).toEqual([place, true]);
  return new Set([...places].flatMap(([place, times]) => (times > 0 ? [place] : [])));
}

test("what a round shows, with whatever is held, is what the lists hold once it is carried out", async () => {
  await fc.assert(
    fc.asyncProperty(week, fc.array(fc.nat(30), { maxLength: 5 }), async (children, heldAt) => {
      await house.readLines(juno, sheet(children), source);
      const open = await openRoundOf(juno);
      if (open === null) return;
      const held = [...new Set(heldAt)].filter((position) => position < open.causes.length);
      if (held.length > 0)
        await juno.ask("POST", "/api/rounds/open/decisions", {
          round: open.number,
          causes: held.map((at) => open.causes[at]?.key),
          decision: "held",
        });
      const round = await roundOf(juno);
      if (round.totals.accepted === 0) return;
      const before = await members();
      const wanted = await previewed(round.number, before);
      const { joins, leaves, replaced } = round.totals;
      await house.step(juno);
      const after = await members();
      expect([...after].sort()).toEqual([...wanted].sort());
      expect([...after].filter((place) => !before.has(place))).toHaveLength(joins + replaced);
      expect([...before].filter((place) => !after.has(place))).toHaveLength(leaves + replaced);
    }),
    { numRuns: 12 },
  );
});

test("what the plan of an edit shows is what the edit does", async () => {
  await house.readLines(juno, sheet(FIRST), source);
  const open = await openRoundOf(juno);
  if (open !== null) await house.step(juno);
  const { rows } = await house.amigo.context.db.execute<{ key: string }>(
    sql`select key from list where closed_at is null and audience <> '' order by key`,
  );
  const audiences = [
    "guardians of students in class Rope",
    "students in class Silks",
    "guardians of students in class Silks + staff",
    "staff",
  ];
  let planned = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...rows.map(({ key }) => key)),
      fc.constantFrom(...audiences),
      async (list, audience) => {
        const edit = {
          what: "lists",
          aliasUntil: "",
          lists: [{ key: list, points: { audience } }],
        };
        const plan = await juno.ask<EditPlan>("POST", "/api/edits/plan", { edit });
        // An audience that a list has already, or that its rules don't allow, is refused before it is planned.
        if (plan.status !== 200) {
          expect([409, 422]).toContain(plan.status);
          return;
        }
        planned++;
        const { totals, version, guards } = plan.body;
        const before = await members();
        const done = await juno.ask("POST", "/api/edits", {
          edit,
          version,
          passed: Object.fromEntries(guards.map(({ id, count }) => [id, count])),
        });
        const after = await members();
        // An edit that comes to nothing is refused: nothing then happens.
        if (done.status !== 200) {
          expect([409, 422]).toContain(done.status);
          expect([...after].sort()).toEqual([...before].sort());
          return;
        }
        expect([...after].filter((place) => !before.has(place))).toHaveLength(
          totals.joins + totals.replaced,
        );
        expect([...before].filter((place) => !after.has(place))).toHaveLength(
          totals.leaves + totals.replaced,
        );
      },
    ),
    { numRuns: 12 },
  );
  expect(planned).toBeGreaterThan(3);
});
