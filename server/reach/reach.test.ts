import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Board } from "@amigo/contract/board";
import type { ListPage } from "@amigo/contract/lists";
import type { Reach } from "@amigo/contract/mail";
import type { Family } from "@amigo/contract/people";
import { TRUTH } from "../testing/truth";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";
import { roundOf } from "../testing/roundOf";

let house: TestHouse;
let juno: Client;

/** A family of a small class whose mail is to come back, and all children who are reached through it alone. */
const CLASS = "Acro Pairs";
const CHOSEN = chosen();

function chosen(): { child: string; names: string[]; addresses: string[] } {
  const children = TRUTH.students.filter(({ classes }) => classes.includes(CLASS));
  const first = children.find(({ guardians }) => guardians.length === 2);
  const addresses = first?.guardians.map(({ email }) => email) ?? [];
  const lost = TRUTH.students.filter(
    ({ guardians }) =>
      guardians.length > 0 && guardians.every(({ email }) => addresses.includes(email)),
  );
  return {
    child: `${first?.given} ${first?.family}`,
    names: lost.map(({ given, family }) => `${given} ${family}`),
    addresses,
  };
}

/** What each place says of who is reached. */
async function places() {
  const board = (await juno.ask<Board>("GET", "/api/board")).body;
  const rows = board.sites.flatMap(({ rows: found }) => found);
  const reach = (await juno.ask<Reach>("GET", "/api/reach")).body;
  const families = (
    await juno.ask<{ total: number; families: Family[] }>("GET", "/api/people?only=unreachable")
  ).body;
  const classes = new Map(reach.classes.map((row) => [row.name, row]));
  return { board: rows.filter(({ kind }) => kind === "class"), reach, classes, families };
}

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(() => house.close());

describe("who is reached is the same wherever it is said", () => {
  test("while no mail comes back", async () => {
    const { board, reach, classes } = await places();
    for (const row of board)
      expect({ students: row.students, reached: row.reached }).toEqual({
        students: classes.get(row.name)?.students,
        reached: classes.get(row.name)?.reached,
      });
    expect(reach.weeks.at(-1)).toMatchObject({ students: reach.students, reached: reach.reached });
  });

  test("when mail to a family has stopped, to the child", async () => {
    const before = await places();
    expect(CHOSEN.names.length).toBeGreaterThan(0);
    for (const address of CHOSEN.addresses)
      await house.amigo.context.db.execute(
        sql`insert into address_trouble (address, state, sort, words) values (${address}, 'stopped', 'no mailbox', 'gone')`,
      );
    const { board, reach, classes, families } = await places();

    expect(reach.reached).toBe(before.reach.reached - CHOSEN.names.length);
    expect(reach.weeks.at(-1)?.reached).toBe(reach.reached);
    for (const row of board) {
      expect(row.reached).toBe(classes.get(row.name)?.reached);
      expect(row.students - row.reached).toBe(classes.get(row.name)?.missing.length);
    }
    const missing = new Set(reach.classes.flatMap((row) => row.missing.map(({ name }) => name)));
    for (const name of CHOSEN.names) expect(missing).toContain(name);
    const shown = families.families.flatMap(({ people }) => people.map(({ name }) => name));
    for (const name of missing) expect(shown).toContain(name);
    expect(
      families.families
        .find(({ people }) => people.some(({ name }) => name === CHOSEN.names[0]))
        ?.missing.join(),
    ).toContain("comes back");
  });

  test("on the class's list, too", async () => {
    const { board, classes } = await places();
    const cell = board
      .find(({ name }) => name === CLASS)
      ?.cells.find(({ name }) => name.includes("parents"));
    const list = (await juno.ask<ListPage>("GET", `/api/lists/${cell?.list}`)).body;
    expect(cell?.unreachable).toBe(classes.get(CLASS)?.missing.length);
    expect(list.unreachable.map(({ because }) => because).join()).toContain(CHOSEN.child);
  });

  test("in a round: of a child who joins, where the guardian's mail comes back", async () => {
    const [address = ""] = CHOSEN.addresses;
    await house.readLines(
      juno,
      [
        "Student no.,Surname,First name,Class,Guardian,Email",
        `CW-9001,Quillfeather,Ansel,${CLASS},Marta Quillfeather,${address}`,
        `CW-9002,Quillfeather,Bo,${CLASS},Marta Quillfeather,`,
        `CW-9003,Tamsin,Cleo,${CLASS},Ola Tamsin,ola.tamsin@lettr.example`,
      ],
      { name: "Late joiners" },
      { name: "late.csv" },
    );
    const round = await roundOf(juno);
    const joined = round.causes.filter(({ kind }) => kind === "joined");
    const lost = joined.filter(({ unreachable }) => unreachable).map(({ title }) => title);
    expect(lost.join()).toContain("Ansel");
    expect(lost.join()).not.toContain("Cleo");
  });
});
