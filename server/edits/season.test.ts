import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Board } from "@amigo/contract/board";
import type { EditDone } from "@amigo/contract/edits";
import type { SeasonPlan, SeasonWanted } from "@amigo/contract/seasons";
import type { House } from "@amigo/contract/house";
import type { ListHit, ListPage } from "@amigo/contract/lists";
import type { TakeBack } from "@amigo/contract/rounds";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { roundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
let opened = 0;

/** Lets lists of any people have outside addresses, as many houses do. */
const ALLOW = {
  what: "house",
  bounds: { "other outside": { allowed: "none|guardians|any", usual: "none" } },
  invariants: {},
  presets: {},
  aliasUntil: "",
} as const;
const VAN_DRIVERS = {
  what: "lists",
  aliasUntil: "",
  lists: [
    {
      key: "5b1f6c1e-0000-4000-8000-000000000001",
      keep: ["quincy@mailhaven.example"],
      points: { title: "Van drivers", name: "van-drivers", audience: "", outside: "any" },
    },
  ],
};

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  for (const edit of [ALLOW, VAN_DRIVERS]) {
    const { body } = await juno.ask<{ version: number }>("POST", "/api/edits/plan", { edit });
    expect((await juno.ask("POST", "/api/edits", { edit, version: body.version })).status).toBe(
      200,
    );
  }
});
afterAll(() => house.close());

const VAN = "5b1f6c1e-0000-4000-8000-000000000001";
const board = async (): Promise<Board> => (await juno.ask<Board>("GET", "/api/board")).body;
const names = async (): Promise<string[]> => {
  const { sites, others } = await board();
  return [
    ...sites.flatMap(({ rows }) =>
      rows.flatMap(({ cells }) => cells.flatMap(({ list, name }) => (list === null ? [] : [name]))),
    ),
    ...others.map(({ name }) => name),
  ].sort();
};
const counts = async (): Promise<Record<string, number>> =>
  Object.fromEntries(
    (await board()).sites.flatMap(({ rows }) =>
      rows.flatMap(({ name, cells }) =>
        cells.map(({ count }, column) => [`${name} ${column}`, count]),
      ),
    ),
  );
const seasons = async (): Promise<[string, boolean][]> =>
  (await juno.ask<House>("GET", "/api/house")).body.seasons.map(({ label, current }) => [
    label,
    current,
  ]);
async function proposed(): Promise<SeasonWanted> {
  const { body } = await juno.ask<{ wanted: SeasonWanted }>("GET", "/api/seasons/next");
  return {
    ...body.wanted,
    cohorts: body.wanted.cohorts.map((cohort) =>
      cohort.name === "Wire Walk"
        ? { ...cohort, name: "High Wire" }
        : cohort.name === "Hoops and Staff"
          ? { ...cohort, name: null, students: "class:acro pairs" }
          : cohort,
    ),
  };
}

describe("the next season", () => {
  test("is shown beforehand with its counts, and opened as one round", async () => {
    const wanted = await proposed();
    expect(wanted.label).toBe("2027-28");
    const { body: plan } = await juno.ask<SeasonPlan>("POST", "/api/seasons/plan", wanted);
    expect(plan).toMatchObject({ closes: 31, students: 220, placed: 220 });
    expect(plan.lists.filter(({ what }) => what === "made")).toHaveLength(28);
    expect(plan.lists.map(({ after }) => after)).toContain("ml-highwire-parents-2728");
    const before = await counts();
    const { status, body } = await juno.ask<EditDone>("POST", "/api/seasons", {
      wanted,
      version: plan.version,
    });
    expect([status, body.listsMade]).toEqual([200, 28]);
    opened = body.round;
    expect(await seasons()).toEqual([
      ["2027-28", true],
      ["2026-27", false],
      ["2025-26", false],
    ]);
    const after = await counts();
    expect([after["High Wire 1"], after["Hoops and Staff 1"], after["Trapeze Two 1"]]).toEqual([
      before["Wire Walk 1"],
      undefined,
      before["Trapeze Two 1"],
    ]);
    expect((await names()).filter((name) => !name.endsWith("-2728"))).toEqual(["van-drivers"]);
  });

  test("what was shown of people is what came about: levels one up, addresses as they were", async () => {
    const { rows } = await house.amigo.context.connection.pool.query<{
      label: string;
      level: string;
      count: string;
    }>(
      "select season.label, fact.value #>> '{}' as level, count(*) from fact join season on season.id = season_id where kind = 'level' and valid_until is null and label > '2026' group by 1, 2 order by 1, 2",
    );
    const of = (label: string): Record<string, number> =>
      Object.fromEntries(
        rows.filter((row) => row.label === label).map(({ level, count }) => [level, Number(count)]),
      );
    const last = of("2026-27");
    expect(of("2027-28")).toEqual(
      Object.fromEntries(
        Object.entries(last).map(([level, count]) => [String(Number(level) + 1), count]),
      ),
    );
  });

  test("the lists before it can be read, not written to, and their addresses say which list there is now", async () => {
    const { body } = await juno.ask<{ lists: { id: string; name: string; state: string }[] }>(
      "GET",
      "/api/lists/all?season=2026-27",
    );
    expect(body.lists.every(({ state }) => state === "season over")).toBe(true);
    const wire = body.lists.find(({ name }) => name === "ml-wire-parents-2627");
    const { body: page } = await juno.ask<ListPage>("GET", `/api/lists/${wire?.id ?? ""}`);
    expect(page).toMatchObject({
      state: "season over",
      successor: {
        title: "High Wire, guardians",
        address: "ml-highwire-parents-2728@lists.copperwheel.example",
      },
    });
    expect(page.members).toBeGreaterThan(10);
    expect(
      (await juno.ask<ListHit[]>("GET", "/api/lists?q=ml-wire-parents")).body.map(
        ({ name }) => name,
      ),
    ).toEqual(["ml-highwire-parents-2728"]);
    const refused = await juno.ask<{ detail: string }>("POST", "/api/posts", {
      lists: [page.id],
      subject: "Hello",
      text: "Hello",
      key: crypto.randomUUID(),
    });
    expect([refused.status, refused.body.detail]).toEqual([
      403,
      expect.stringContaining(
        "The season 2026-27 is over, and this list was of that season. The list now is High Wire, guardians: ml-highwire-parents-2728@",
      ),
    ]);
    await house.mail({
      from: JUNO,
      as: JUNO,
      to: "ml-wire-parents-2627@lists.copperwheel.example",
      subject: "To last season",
    });
    expect(await house.mailTo(JUNO, "Returned: To last season")).toContain(
      "ml-highwire-parents-2728@lists.copperwheel.example",
    );
    expect(house.sink.mails.filter(({ to }) => to !== JUNO)).toEqual([]);
  });

  test("a list of its own goes on with its address and members", async () => {
    const { body } = await juno.ask<ListPage>("GET", `/api/lists/${VAN}`);
    expect(body).toMatchObject({
      state: "open",
      season: "2027-28",
      members: 1,
      name: "van-drivers",
    });
  });

  test("a second one of the same name is refused, and so are two classes of one name", async () => {
    const wanted = await proposed();
    expect(
      (
        await juno.ask<{ detail: string }>("POST", "/api/seasons/plan", {
          ...wanted,
          label: "2026-27",
        })
      ).body.detail,
    ).toContain("There is a season 2026-27 already");
    const twice = wanted.cohorts.map((cohort) => ({ ...cohort, name: "One for all" }));
    expect(
      (
        await juno.ask<{ detail: string }>("POST", "/api/seasons/plan", {
          ...wanted,
          cohorts: twice,
        })
      ).body.detail,
    ).toContain("Two of them would be called");
    expect(
      (await juno.ask("POST", "/api/seasons/plan", { ...wanted, label: "next year" })).status,
    ).toBe(400);
  });

  test("a roster read in it decides who goes on; what was carried over shows as causes", async () => {
    await house.read(juno, "autumn-roster-week-2.xlsx");
    const round = await roundOf(juno);
    expect(round.guards.length).toBeGreaterThan(0);
    expect(round.causes.filter(({ kind }) => kind === "joined")).toHaveLength(4);
    expect(round.causes.filter(({ kind }) => kind === "left")).toHaveLength(3);
    await house.step(juno);
    const { body: refused } = await juno.ask<{ detail: string }>(
      "GET",
      `/api/rounds/${opened}/back`,
    );
    expect(refused.detail).toContain(
      `Round ${round.number} was carried out in the new season since`,
    );
    const { body: plan } = await juno.ask<TakeBack>("GET", `/api/rounds/${round.number}/back`);
    expect(
      (
        await juno.ask("POST", `/api/rounds/${round.number}/back`, {
          passed: Object.fromEntries(plan.guards.map(({ id, count }) => [id, count])),
        })
      ).status,
    ).toBe(200);
  });

  test("is taken back as one: the season before is as it was", async () => {
    const { body: plan } = await juno.ask<TakeBack>("GET", `/api/rounds/${opened}/back`);
    expect(plan.causes).toMatchObject([
      { kind: "season", detail: expect.stringContaining("31 lists of it open again") },
    ]);
    expect((await juno.ask("POST", `/api/rounds/${opened}/back`, { passed: {} })).status).toBe(200);
    expect(await seasons()).toEqual([
      ["2026-27", true],
      ["2025-26", false],
    ]);
    expect((await names()).filter((name) => name.includes("2728"))).toEqual([]);
    expect(await names()).toHaveLength(32);
    expect((await juno.ask<ListPage>("GET", `/api/lists/${VAN}`)).body).toMatchObject({
      state: "open",
      season: "2026-27",
      members: 1,
    });
    await house.mail({
      from: JUNO,
      as: JUNO,
      to: "ml-wire-parents-2627@lists.copperwheel.example",
      subject: "It is open again",
    });
    const { body: members } = await juno.ask<{ members: { address: string }[] }>(
      "GET",
      `/api/lists/${(await juno.ask<ListHit[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? ""}/members`,
    );
    await house.mailTo(members.members[0]?.address ?? "", "It is open again");
  });

  test("it can be opened again, with the same names", async () => {
    const wanted = await proposed();
    const { body: plan } = await juno.ask<SeasonPlan>("POST", "/api/seasons/plan", wanted);
    const { status } = await juno.ask<EditDone>("POST", "/api/seasons", {
      wanted,
      version: plan.version,
    });
    expect(status).toBe(200);
    expect((await seasons())[0]).toEqual(["2027-28", true]);
    expect(await names()).toContain("ml-highwire-parents-2728");
  });
});
