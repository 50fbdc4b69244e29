import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { openRoundOf, type WholeRound } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
let source = "";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

const HEAD = "Student no.,Surname,First name,Site,Class,Parent 1,Email 1";
const KIDS = ["Ida Brandt", "Wren Eastlake", "Una Holm", "Bram Quist", "Ola Reyes"];
const row = (kid: string): string => {
  const [given = "", family = ""] = kid.split(" ");
  return `CW-${KIDS.indexOf(kid) + 1},${family},${given},Mill Loft,Wire Walk,Pat ${family},${family.toLowerCase()}@lettr.example`;
};

async function read(kids: readonly string[]): Promise<void> {
  source = (
    await house.readLines(
      juno,
      [HEAD, ...kids.map(row)],
      source === "" ? { name: "Roster" } : { id: source },
    )
  ).source;
}

const openRound = async (): Promise<WholeRound | null> => await openRoundOf(juno);

/** What the open round holds, and what it would do. */
async function shown(): Promise<{ held: string[]; accepted: string[] }> {
  const causes = (await openRound())?.causes ?? [];
  const of = (decision: string): string[] =>
    causes
      .filter((cause) => cause.decision === decision)
      .map(({ kind, title }) => `${kind} ${title}`)
      .sort();
  return { held: of("held"), accepted: of("accepted") };
}

async function decide(title: string, decision: "accepted" | "held"): Promise<void> {
  const round = await openRound();
  const causes = (round?.causes ?? []).filter((cause) => cause.title === title);
  await juno.ask("POST", "/api/rounds/open/decisions", {
    round: round?.number,
    causes: causes.map(({ key }) => key),
    decision,
  });
}

/** Brings the open round in step where anything of it is accepted. */
async function step(): Promise<void> {
  if ((await shown()).accepted.length > 0) await house.step(juno);
}

let invited = 0;
/** Somebody new on the staff: an edit, which is a round of a higher number that closes at once. */
const invite = async (): Promise<void> => {
  const { status } = await juno.ask("POST", "/api/accounts", {
    name: `Coach ${++invited}`,
    email: `coach${invited}@copperwheel.example`,
    role: "staff",
    site: "",
  });
  expect(status).toBe(200);
};

/** Takes the last round that can be taken back. */
async function takeBack(): Promise<void> {
  const done = (
    await juno.ask<{ number: number; takesBack: number | null; takenBackBy: number | null }[]>(
      "GET",
      "/api/rounds",
    )
  ).body;
  const last = done.find(
    (candidate) =>
      candidate.takesBack === null && candidate.takenBackBy === null && candidate.number > 1,
  );
  if (last === undefined) return;
  const plan = (
    await juno.ask<{ guards: { id: string; count: number }[] }>(
      "GET",
      `/api/rounds/${last.number}/take-back`,
    )
  ).body;
  await juno.ask("POST", `/api/rounds/${last.number}/take-back`, {
    passed: Object.fromEntries((plan.guards ?? []).map(({ id, count }) => [id, count])),
  });
}

describe("what somebody held", () => {
  test("stays held when a round of a higher number closes first", async () => {
    await read(KIDS);
    await house.step(juno);
    await read(KIDS.filter((kid) => kid !== "Una Holm"));
    await decide("Una Holm", "held");
    await read(["Wren Eastlake", "Bram Quist", "Ola Reyes"]);
    expect(await shown()).toEqual({ held: ["left Una Holm"], accepted: ["left Ida Brandt"] });
    await invite();
    await step();
    expect(await shown()).toEqual({ held: ["left Una Holm"], accepted: [] });
    await takeBack();
    expect((await shown()).held).toContain("left Una Holm");
    const parents = await house.amigo.context.connection.pool.query(
      "select 1 from membership where address = 'holm@lettr.example' and valid_until is null",
    );
    expect(parents.rowCount).toBeGreaterThan(0);
  });

  test("in whatever order rounds are opened, closed and taken back, until somebody decides", async () => {
    const doing = fc.constantFrom("read", "invite", "step", "take back");
    await read(KIDS);
    for (const title of KIDS) await decide(title, "accepted");
    await step();
    await fc.assert(
      fc.asyncProperty(fc.array(doing, { minLength: 1, maxLength: 5 }), async (order) => {
        await read(KIDS);
        await decide("Wren Eastlake", "accepted");
        await step();
        const without = KIDS.filter((kid) => kid !== "Wren Eastlake");
        await read(without);
        await decide("Wren Eastlake", "held");
        let turn = 0;
        for (const one of order) {
          if (one === "read") {
            const gone = turn++ % without.length;
            await read(without.filter((_, at) => at !== gone));
          } else if (one === "invite") await invite();
          else if (one === "step") await step();
          else await takeBack();
          expect((await shown()).held, order.join(", ")).toContain("left Wren Eastlake");
        }
        await decide("Wren Eastlake", "accepted");
        await step();
        expect((await shown()).held).not.toContain("left Wren Eastlake");
        await read(KIDS);
        for (const title of KIDS) await decide(title, "accepted");
        await step();
      }),
      { numRuns: 6 },
    );
  });
});
