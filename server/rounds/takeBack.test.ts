import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Board } from "@amigo/contract/board";
import type { Kept, Member } from "@amigo/contract/members";
import type { RoundLine, TakeBack } from "@amigo/contract/rounds";
import type { z } from "zod";
import { JUNO, ODILE, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { openRoundOf, type WholeRound } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;
let source = "";
let again = 0;

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const line = (
  number: number,
  name: string,
  place: string,
  address: string,
  site = "Mill Loft",
): string =>
  `CW-${number},${name.split(" ")[1]},${name.split(" ")[0]},${site},${place},Ravi Lindqvist,Halim ${name.split(" ")[1]},${address}`;
const IDA = line(1, "Ida Brandt", "Trapeze Two", "hbrandt@oakmail.example");
const WREN = line(2, "Wren Eastlake", "Trapeze Two", "tove@lettr.example");
const UNA = line(3, "Una Holm", "Wire Walk", "otto@lettr.example");

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  source = (await house.readLines(juno, [HEAD, IDA, WREN, UNA], { name: "Roster" })).source;
  await house.step(juno);
});
afterAll(() => house.close());

const read = (...rows: string[]) => house.readLines(juno, [HEAD, ...rows], { id: source });
const openRound = async (): Promise<WholeRound | null> => await openRoundOf(juno);
const lists = async (): Promise<Map<string, string>> =>
  new Map(
    (await juno.ask<Board>("GET", "/api/board")).body.sites.flatMap(({ rows }) =>
      rows.flatMap(({ cells }) =>
        cells.flatMap(({ name, list }) => (list === null ? [] : [[name, list] as const])),
      ),
    ),
  );
const members = async (name: string, on = ""): Promise<string[]> =>
  (
    await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${(await lists()).get(name)}/members?on=${on}`,
    )
  ).body.members
    .map(({ address }) => address)
    .sort();
const planned = async (round: number) =>
  juno.ask<TakeBack & { detail?: string }>("GET", `/api/rounds/${round}/back`);
const passedAll = (guards: TakeBack["guards"]) =>
  Object.fromEntries(guards.map(({ id, count }) => [id, count]));
const takeBack = async (round: number) =>
  juno.ask<{ round: number; detail?: string }>("POST", `/api/rounds/${round}/back`, {
    passed: passedAll((await planned(round)).body.guards),
  });

describe("taking a round back", () => {
  test("shows what it would do, does it in a new round, and what the sheet still says comes back held", async () => {
    await read(
      line(1, "Ida Brandt", "Wire Walk", "hbrandt@oakmail.example"),
      WREN.replace("tove@", "tove.new@"),
      UNA,
    );
    await house.step(juno);
    expect(await members("ml-wire-parents-2627")).toEqual([
      "hbrandt@oakmail.example",
      "otto@lettr.example",
    ]);
    const plan = (await planned(2)).body;
    expect(plan.causes.map(({ kind, title, detail }) => `${kind}: ${title}, ${detail}`)).toEqual([
      "moved: Ida Brandt, Wire Walk → Trapeze Two",
      "address: Halim Eastlake, tove.new@lettr.example → tove@lettr.example",
    ]);
    expect(plan.leftAlone).toEqual([]);
    expect((await takeBack(2)).body.round).toBe(3);
    expect(await members("ml-wire-parents-2627")).toEqual(["otto@lettr.example"]);
    expect(await members("ml-trapeze2-parents-2627")).toEqual([
      "hbrandt@oakmail.example",
      "tove@lettr.example",
    ]);
    const open = await openRound();
    expect(open?.causes.map(({ kind, title, decision }) => `${kind} ${title} ${decision}`)).toEqual(
      ["moved Ida Brandt held", "address Halim Eastlake held"],
    );
    const { body: cause } = await juno.ask<{ history: string }>(
      "GET",
      `/api/rounds/${open?.number}/causes/0`,
    );
    expect(cause.history).toBe("Undone in round 3 by Juno Abara.");
  });

  test("is done once: the second is told", async () => {
    expect(await juno.ask("POST", "/api/rounds/2/back", { passed: {} })).toMatchObject({
      status: 409,
      body: { detail: "Round 2 was undone already, by round 3." },
    });
    const { body } = await juno.ask<z.output<typeof RoundLine>[]>("GET", "/api/rounds");
    expect(
      body.map(({ number, takesBack, takenBackBy }) => [number, takesBack, takenBackBy]),
    ).toEqual([
      [3, 2, null],
      [2, null, 3],
      [1, null, null],
    ]);
  });

  test("is journalled, and a taken-back round can be taken back again", async () => {
    const { body } = await juno.ask<{ entries: { sentence: string }[] }>("GET", "/api/journal");
    expect(body.entries[0]?.sentence).toBe(
      "Juno Abara undid round 2 with round 3: 4 lists, 3 joined, 3 left",
    );
    again = (await takeBack(3)).body.round;
    expect(await members("ml-wire-parents-2627")).toEqual([
      "hbrandt@oakmail.example",
      "otto@lettr.example",
    ]);
    expect(await openRound()).toBeNull();
  });

  test("leaves alone what has changed since, and says so", async () => {
    await read(
      line(1, "Ida Brandt", "Acro Pairs", "hbrandt@oakmail.example"),
      WREN.replace("tove@", "tove.new@"),
      UNA,
    );
    await house.step(juno);
    const { body } = await planned(again);
    expect(body.leftAlone).toEqual([
      "Ida Brandt in Wire Walk: changed since, so it stays as it is today.",
    ]);
    expect(body.causes.map(({ title, detail }) => `${title}, ${detail}`)).toContain(
      "Halim Eastlake, tove.new@lettr.example → tove@lettr.example",
    );
  });

  test("needs the count of a guard that stands: the first round would empty every list", async () => {
    const { body: plan } = await planned(1);
    expect(plan.guards.length).toBeGreaterThan(0);
    expect(await juno.ask("POST", "/api/rounds/1/back", { passed: {} })).toMatchObject({
      status: 422,
    });
  });

  test("of a round that is not there, or not done, is refused", async () => {
    expect((await planned(99)).status).toBe(404);
    await read(line(1, "Ida Brandt", "Acro Pairs", "hbrandt@oakmail.example"), WREN);
    const open = await openRound();
    expect(await planned(open?.number ?? 0)).toMatchObject({
      status: 409,
      body: { detail: expect.stringContaining("was not carried out") as string },
    });
    await read(
      line(1, "Ida Brandt", "Acro Pairs", "hbrandt@oakmail.example"),
      WREN.replace("tove@", "tove.new@"),
      UNA,
    );
  });
});

describe("kept on and off by hand", () => {
  const keep = async (name: string, body: Record<string, string>, client = juno) =>
    client.ask<{ member: boolean; detail?: string }>(
      "POST",
      `/api/lists/${(await lists()).get(name)}/kept`,
      body,
    );

  test("holds at once, and survives every reading", async () => {
    expect(
      (
        await keep("ml-wire-parents-2627", {
          address: "Grandmother@Lettr.example",
          side: "on",
          reason: "drives Una home",
        })
      ).body,
    ).toMatchObject({ address: "grandmother@lettr.example", member: true });
    expect(
      (
        await keep("ml-wire-parents-2627", {
          address: "otto@lettr.example",
          side: "off",
          reason: "wishes no mail",
        })
      ).body.member,
    ).toBe(false);
    expect(await members("ml-wire-parents-2627")).toEqual(["grandmother@lettr.example"]);
    await read(
      line(1, "Ida Brandt", "Wire Walk", "hbrandt@oakmail.example"),
      WREN.replace("tove@", "tove.new@"),
      UNA,
    );
    await house.step(juno);
    expect(await members("ml-wire-parents-2627")).toEqual([
      "grandmother@lettr.example",
      "hbrandt@oakmail.example",
    ]);
    const { body } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${(await lists()).get("ml-wire-parents-2627")}/members?q=grandmother`,
    );
    expect(body.members[0]?.kept).toBe("always on this list, set by Juno Abara: drives Una home");
  });

  test("let go, the sheets decide again", async () => {
    const id = (await lists()).get("ml-wire-parents-2627");
    expect(
      (
        await juno.ask<{ member: boolean }>("POST", `/api/lists/${id}/let-go`, {
          address: "otto@lettr.example",
        })
      ).body.member,
    ).toBe(true);
    expect(await members("ml-wire-parents-2627")).toContain("otto@lettr.example");
    expect(
      (await juno.ask("POST", `/api/lists/${id}/let-go`, { address: "nobody@lettr.example" }))
        .status,
    ).toBe(404);
    expect(
      (await juno.ask<Kept[]>("GET", `/api/lists/${id}/kept`)).body.map(({ address, side }) => [
        address,
        side,
      ]),
    ).toEqual([["grandmother@lettr.example", "on"]]);
  });

  test("until a last day, ends by a cause of its own once that day is over", async () => {
    await keep("ml-wire-parents-2627", {
      address: "coachbus@lettr.example",
      side: "on",
      reason: "until the trip",
      lastDay: "2099-01-31",
    });
    await house.amigo.context.connection.pool.query(
      "update fact set value = jsonb_set(value, '{lastDay}', '\"2026-01-31\"') where kind = 'kept' and ref = 'coachbus@lettr.example'",
    );
    await house.amigo.context.connection.pool.query("update season set version = version + 1");
    await house.amigo.context.desk.run("reopenRound", undefined);
    const open = await openRound();
    expect(open?.causes.map(({ kind, title, leaves }) => [kind, title, leaves])).toEqual([
      ["expired", "coachbus@lettr.example", 1],
    ]);
    await house.step(juno);
    expect(await members("ml-wire-parents-2627")).not.toContain("coachbus@lettr.example");
  });

  test("kept again while its end stands in the open round, is not ended by it", async () => {
    await keep("ml-wire-parents-2627", {
      address: "lift@lettr.example",
      side: "on",
      reason: "until the trip",
      lastDay: "2099-01-31",
    });
    await house.amigo.context.connection.pool.query(
      "update fact set value = jsonb_set(value, '{lastDay}', '\"2026-01-31\"') where kind = 'kept' and ref = 'lift@lettr.example'",
    );
    await house.amigo.context.connection.pool.query("update season set version = version + 1");
    // Somebody else is kept meanwhile: that must not hide that a last day is over.
    await keep("ml-trapeze2-parents-2627", {
      address: "other@lettr.example",
      side: "off",
      reason: "moved away",
    });
    await house.amigo.context.desk.run("reopenRound", undefined);
    expect((await openRound())?.causes.map(({ kind, title }) => [kind, title])).toEqual([
      ["expired", "lift@lettr.example"],
    ]);
    await keep("ml-wire-parents-2627", {
      address: "lift@lettr.example",
      side: "on",
      reason: "the trip is later",
      lastDay: "2099-02-28",
    });
    expect(await openRound()).toBeNull();
    expect(await members("ml-wire-parents-2627")).toContain("lift@lettr.example");
  });

  test.each([
    [{ address: "no address", side: "on", reason: "x" }, 422],
    [{ address: "a@lettr.example", side: "on", reason: "" }, 400],
    [{ address: "a@lettr.example", side: "beside", reason: "x" }, 400],
    [{ address: "a@lettr.example", side: "on", reason: "x", lastDay: "tomorrow" }, 400],
  ])("%j is refused with %i", async (body, status) =>
    expect((await keep("ml-wire-parents-2627", body)).status).toBe(status),
  );

  test("may be done by a site coordinator for her site's lists, not by somebody who does not lead it", async () => {
    expect(
      (
        await keep(
          "ml-wire-parents-2627",
          { address: "x@lettr.example", side: "off", reason: "moved away" },
          await house.signIn(ODILE),
        )
      ).status,
    ).toBe(200);
    expect(
      (
        await keep(
          "ml-wire-parents-2627",
          { address: "x@lettr.example", side: "off", reason: "moved away" },
          await house.signIn("teo.bramwell@copperwheel.example"),
        )
      ).status,
    ).toBe(404);
  });
});

describe("a past day", () => {
  test("has the members of then, with the reason of then", async () => {
    const sql = (text: string) => house.amigo.context.connection.pool.query(text);
    await sql(
      "update membership set valid_from = valid_from - interval '10 days', valid_until = valid_until - interval '4 days'",
    );
    await sql(
      "update fact set valid_from = valid_from - interval '10 days', valid_until = valid_until - interval '4 days'",
    );
    const day = (back: number): string =>
      new Date(Date.now() - back * 86_400_000).toISOString().slice(0, 10);
    expect(await members("ml-wire-parents-2627", day(20))).toEqual([]);
    expect(await members("ml-wire-parents-2627", day(7))).toContain("coachbus@lettr.example");
    expect(await members("ml-wire-parents-2627", day(1))).not.toContain("coachbus@lettr.example");
    const { body } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${(await lists()).get("ml-trapeze2-parents-2627")}/members?on=${day(7)}&q=hbrandt`,
    );
    expect(body.members[0]?.people[0]?.because).toBe("guardian of Ida Brandt");
    expect(
      (
        await juno.ask(
          "GET",
          `/api/lists/${(await lists()).get("ml-wire-parents-2627")}/members?on=yesterday`,
        )
      ).status,
    ).toBe(400);
  });
});
