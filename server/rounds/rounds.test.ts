import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Board } from "@amigo/contract/board";
import type { Member } from "@amigo/contract/members";
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

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const IDA =
  "CW-1,Brandt,Ida,Mill Loft,Trapeze Two,Ravi Lindqvist,Halim Brandt,hbrandt@oakmail.example";
const WREN =
  "CW-2,Eastlake,Wren,Mill Loft,Trapeze Two,Ravi Lindqvist,Tove Eastlake,tove@lettr.example";
const sql = <Row>(text: string): Promise<{ rows: Row[] }> =>
  house.amigo.context.connection.pool.query(text) as never;

async function read(...rows: string[]): Promise<void> {
  source = (
    await house.readLines(
      juno,
      [HEAD, ...rows],
      source === "" ? { name: "Roster" } : { id: source },
    )
  ).source;
}

const openRound = async (): Promise<WholeRound | null> => await openRoundOf(juno);
const lists = async (): Promise<string[]> =>
  (await juno.ask<Board>("GET", "/api/board")).body.sites.flatMap(({ rows }) =>
    rows.flatMap(({ cells }) => cells.map(({ name, count }) => `${name} ${count}`)),
  );

describe("bringing lists in step", () => {
  test("makes classes, sites and lists as the sheet has them, and leads of the coaches with an account", async () => {
    await read(
      IDA,
      WREN,
      "CW-3,Holm,Una,River Shed,Wire Walk,Nobody Known,Otto Holm,otto@lettr.example",
    );
    await house.step(juno);
    expect((await lists()).sort()).toEqual([
      "ml-trapeze2-2627 2",
      "ml-trapeze2-coaches-2627 1",
      "ml-trapeze2-parents-2627 2",
      "rs-wire-2627 1",
      "rs-wire-coaches-2627 0",
      "rs-wire-parents-2627 1",
    ]);
    const leads = await sql<{ name: string; email: string }>(
      "select list.name, account.email from list_role join list on list.id = list_id join account on account.id = account_id join season on season.id = season_id where season.current order by 1",
    );
    expect(leads.rows).toEqual([
      { name: "ml-trapeze2-2627", email: "ravi.lindqvist@copperwheel.example" },
      { name: "ml-trapeze2-coaches-2627", email: "ravi.lindqvist@copperwheel.example" },
      { name: "ml-trapeze2-parents-2627", email: "ravi.lindqvist@copperwheel.example" },
    ]);
  });

  test("that fails halfway leaves everything as it was, and can be pressed again", async () => {
    await read(
      IDA,
      WREN.replace("tove@", "tove.new@"),
      "CW-4,Quist,Bram,Mill Loft,Acro Pairs,Sunniva Hale,Ana Quist,ana@lettr.example",
    );
    const before = { lists: await lists(), round: await openRound() };
    await sql(
      "create function fail_now() returns trigger language plpgsql as $$ begin raise exception 'the disk is full'; end $$",
    );
    await sql(
      "create trigger fail_now before insert on membership for each row execute function fail_now()",
    );
    const press = () =>
      juno.ask<{ detail: string }>("POST", "/api/rounds/open/step", {
        round: before.round?.number,
        version: before.round?.version,
        passed: Object.fromEntries(
          (before.round?.guards ?? []).map(({ id, count }) => [id, count]),
        ),
      });
    const failed = await press();
    expect([failed.status, failed.body.detail]).toEqual([
      503,
      "Something in Amigo failed, and nothing was changed. Try again in a moment. If it happens again, tell the person who runs your Amigo.",
    ]);
    expect({ lists: await lists(), round: await openRound() }).toEqual(before);
    expect((await sql("select 1 from fact where until_round is not null")).rows).toEqual([]);
    await sql("drop trigger fail_now on membership");
    expect((await press()).status).toBe(200);
    expect(await lists()).toContain("ml-acro-2627 1");
  });

  test("ends a membership and begins another, and keeps the time of both", async () => {
    const { rows } = await sql<{
      address: string;
      ended: boolean;
      from_round: number;
      until_round: number | null;
    }>(
      "select address, valid_until is not null as ended, from_round, until_round from membership join list on list.id = list_id where list.name = 'ml-trapeze2-parents-2627' and address like 'tove%' order by address desc",
    );
    expect(rows).toEqual([
      { address: "tove@lettr.example", ended: true, from_round: 1, until_round: 2 },
      { address: "tove.new@lettr.example", ended: false, from_round: 2, until_round: null },
    ]);
  });

  test("moves the lead along when another coach takes the class", async () => {
    await read(
      IDA.replace("Ravi Lindqvist", "Petra Dunmore"),
      WREN.replace("Ravi Lindqvist", "Petra Dunmore").replace("tove@", "tove.new@"),
      "CW-4,Quist,Bram,Mill Loft,Acro Pairs,Sunniva Hale,Ana Quist,ana@lettr.example",
    );
    await house.step(juno);
    const leads = await sql<{ email: string }>(
      "select distinct account.email from list_role join list on list.id = list_id join account on account.id = account_id where list.name like 'ml-trapeze2%2627'",
    );
    expect(leads.rows).toEqual([{ email: "petra.dunmore@copperwheel.example" }]);
  });

  test("takes a class that is gone off the board, its list empty but never written over", async () => {
    await read(
      IDA.replace("Ravi Lindqvist", "Petra Dunmore"),
      WREN.replace("Ravi Lindqvist", "Petra Dunmore").replace("tove@", "tove.new@"),
    );
    const round = await openRound();
    expect(round?.guards.map(({ about }) => about).sort()).toEqual([
      "Acro Pairs, coaches",
      "Acro Pairs, guardians",
      "Acro Pairs, students",
      "Roster",
    ]);
    await house.step(juno);
    expect((await lists()).some((line) => line.includes("acro"))).toBe(false);
    await read(
      IDA.replace("Ravi Lindqvist", "Petra Dunmore"),
      WREN.replace("Ravi Lindqvist", "Petra Dunmore").replace("tove@", "tove.new@"),
      "CW-4,Quist,Bram,Mill Loft,Acro Pairs,Sunniva Hale,Ana Quist,ana@lettr.example",
    );
    await house.step(juno);
    expect(await lists()).toContain("ml-acro-2627 1");
  });

  test("gives a list another name when its own is taken", async () => {
    await sql(
      "with made as (insert into list (name, title, season_id, key, preset, rules) select 'ml-stilts-2627', 'By hand', id, 'a list by hand', 'announcement-only', '{}' from season where current returning id) insert into list_address (name, list_id, kind) select 'ml-stilts-2627', id, 'name' from made",
    );
    await read(
      IDA,
      WREN,
      "CW-5,Vanstone,Quincy,Mill Loft,Stilts & Clowning,Marta Okonjo,Rosa Vanstone,rosa@lettr.example",
    );
    await house.step(juno);
    expect(await lists()).toContain("ml-stilts-2627-2 1");
  });

  test("is refused when everything is held, and the round says so", async () => {
    await read(IDA, WREN);
    const round = await openRound();
    await juno.ask("POST", "/api/rounds/open/decisions", {
      round: round?.number,
      causes: round?.causes.map(({ key }) => key),
      decision: "held",
    });
    const again = await openRound();
    expect(again?.totals).toMatchObject({ accepted: 0, lists: 0, joins: 0, leaves: 0 });
    expect(again?.guards).toEqual(
      expect.not.arrayContaining([
        expect.objectContaining({ about: "Stilts & Clowning, guardians" }),
      ]),
    );
    const { status, body } = await juno.ask<{ detail: string }>("POST", "/api/rounds/open/step", {
      round: again?.number,
      version: again?.version,
      passed: Object.fromEntries((again?.guards ?? []).map(({ id, count }) => [id, count])),
    });
    expect([status, body.detail]).toEqual([
      422,
      "Every change of this round is on hold. Accept one first.",
    ]);
  });

  test("is no longer needed when the sheet comes back to what the lists hold", async () => {
    await read(
      IDA,
      WREN,
      "CW-5,Vanstone,Quincy,Mill Loft,Stilts & Clowning,Marta Okonjo,Rosa Vanstone,rosa@lettr.example",
    );
    expect(await openRound()).toBeNull();
  });
});

describe("the database itself refuses", () => {
  test.each([
    [
      "an address twice on a list",
      "insert into membership (list_id, address, valid_from) select list_id, address, now() from membership where valid_until is null limit 1",
      /membership_once/,
    ],
    [
      "two values of a fact at a time",
      "insert into fact (season_id, subject, kind, ref, value, origin, valid_from) select season_id, subject, kind, ref, value, origin, now() from fact where valid_until is null limit 1",
      /fact_once/,
    ],
    [
      "a second house",
      "insert into house (id, name, inside_domain, list_domain) values (2, 'x', 'x', 'x')",
      /one_house/,
    ],
    [
      "two current seasons",
      "insert into season (label, current) values ('2027-28', true)",
      /one_current_season/,
    ],
    ["a list name that is none", "update list set name = 'Trapeze Two'", /list_name_form/],
    ["a role that there is not", "update account set role = 'king'", /account_role/],
  ])("%s", async (_what, text, constraint) => {
    await expect(sql(text)).rejects.toThrow(constraint);
  });

  test("two open rounds", async () => {
    const insert =
      "insert into round (season_id, state, totals, guards, readings) select id, 'open', '{}', '[]', '{}' from season where current";
    await expect(
      (async () => {
        await sql(insert);
        await sql(insert);
      })(),
    ).rejects.toThrow(/one_open_round/);
  });

  test("members come with the row that they were last read in", async () => {
    const { body } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=trapeze two guardians");
    const { body: members } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${body[0]?.id}/members`,
    );
    expect(members.members.map(({ people }) => people[0]?.where)).toEqual([
      "Roster, row 2, column G",
      "Roster, row 3, column G",
    ]);
  });
});
