import pg from "pg";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { verifyJournal } from "../commands/verifyJournal";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

let house: TestHouse;
let juno: Client;
let client: pg.Client;
let url = "";

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
  url = house.amigo.context.settings.databaseUrl;
  client = new pg.Client({ connectionString: url });
  await client.connect();
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(async () => {
  await client.end();
  await house.close();
});

const verify = (known?: string): Promise<string> =>
  verifyJournal(url, known).catch((failure: Error) => failure.message);
/** Does something that Amigo itself can't do, and takes it back afterwards. */
async function behindItsBack(statement: string): Promise<string> {
  await client.query("begin");
  await client.query("alter table journal disable trigger user");
  await client.query("alter table journal_link disable trigger user");
  await client.query(statement);
  await client.query("alter table journal enable trigger user");
  await client.query("alter table journal_link enable trigger user");
  await client.query("commit");
  return verify();
}

describe("the journal", () => {
  test("is one unbroken chain, also where many write to it at once", async () => {
    await Promise.all(Array.from({ length: 12 }, () => house.signIn(JUNO)));
    await Promise.all(
      Array.from({ length: 12 }, (_, at) =>
        house.amigo.context.db.transaction(async (tx) => {
          for (let entry = 0; entry < 5; entry++)
            await tx.execute(
              `insert into journal (actor, action, sentence) values ('Juno', 'sign in', 'Entry ${entry} of ${at}')`,
            );
        }),
      ),
    );
    const { rows } = await client.query<{ count: string }>("select count(*) from journal");
    expect(await verify()).toContain(
      `as it was written: ${rows[0]?.count} entries in an unbroken chain`,
    );
  });

  test("is written once: nothing switches that off", async () => {
    for (const statement of [
      "update journal set sentence = 'nothing happened' where id = 1",
      "update journal set actor = 'somebody removed', at = now() where id = 1",
      "delete from journal where id = 1",
      "truncate journal",
      "update journal_link set is_change = true",
      "delete from journal_link",
      "truncate journal_link",
      "update reading set file_name = 'another.xlsx'",
      "update journal set sentence = 'Juno removed nothing' where id = 1",
      "update journal set sentence = '%removed%' where id = 1",
      "update reading set rows = rows + 1",
      "update reading_row set cells[1] = 'removed by nobody'",
      "update reading_row set cells = '{}'",
      "update reading_row set cells = array_fill('x'::text, array[cardinality(cells)])",
    ]) {
      await client.query("begin");
      await client.query("set local amigo.forgetting = 'on'");
      // The demo house alone can be emptied.
      await client.query("update house set demo = false");
      await expect(client.query(statement), statement).rejects.toThrow(/written once/);
      await client.query("rollback");
    }
  });

  test("lets single names be taken out of what stays, and of what is in parts", async () => {
    await client.query("begin");
    for (const statement of [
      "update reading_row set cells[3] = '', cells[4] = '' where cardinality(cells) > 4 and cells[3] <> ''",
      `insert into journal (actor, action, sentence, after) values ('Juno Abara', 'sign in', 'Juno Abara signed in: 100% \\ x_y', '{"given": "Una", "family": "Holm", "count": 3, "una@lettr.example": ["Una Holm", "x"]}')`,
      `update journal set sentence = 'somebody removed signed in: 100% \\ x_y', after = '{"given": "", "family": "", "count": 3, "removed-0123456789ab@removed.invalid": ["somebody removed", "x"]}' where sentence like '%x_y'`,
    ])
      expect((await client.query(statement)).rowCount, statement).toBeGreaterThan(0);
    await expect(
      client.query(
        `update journal set after = '{"given": "", "count": 4}' where sentence like '%x_y'`,
      ),
    ).rejects.toThrow(/written once/);
    await client.query("rollback");
  });

  test("says how often personal data was taken out of it", async () => {
    await client.query(
      "update journal set sentence = 'somebody removed' where id = (select max(id) from journal)",
    );
    expect(await verify()).toContain("Personal data was taken out of entries 1 time.");
  });

  test.each([
    [
      "an entry that says something else",
      "update journal set sentence = 'nothing happened' where id = 3",
      "Entry 3 doesn't say what was written.",
    ],
    ["an entry that is missing", "delete from journal where id = 4", "Entry 4 is missing."],
    [
      "an entry that was put in beside the chain",
      "insert into journal (id, actor, action, sentence) values (900000, 'Juno', 'sign in', 'as if')",
      "Entry 900000 isn't in the chain.",
    ],
    [
      "a link that was changed",
      "update journal_link set content = sha256('x') where place = 5",
      "Link 5 of the chain, about entry",
    ],
    [
      "a link that is missing",
      "delete from journal_link where place = 6",
      "Link 6 of the chain is missing.",
    ],
  ])("tells of %s", async (_, statement, told) => {
    expect(await behindItsBack(statement)).toContain(told);
  });

  test("tells of a chain that was made anew by its end that was noted elsewhere", async () => {
    const other = await startTestHouse({ roles: "web" });
    try {
      const { databaseUrl } = other.amigo.context.settings;
      const told = await verifyJournal(databaseUrl, undefined);
      const noted = /\d+:[\da-f]{64}/.exec(told)?.[0] ?? "";
      await other.signIn(JUNO);
      expect(await verifyJournal(databaseUrl, noted)).toContain("as it was written");
      const forged = noted.replace(/[\da-f]{8}$/, "00000000");
      await expect(verifyJournal(databaseUrl, forged)).rejects.toThrow("written anew");
      await expect(verifyJournal(databaseUrl, `999999:${"0".repeat(64)}`)).rejects.toThrow(
        "before link 999999 that was noted",
      );
      await expect(verifyJournal(databaseUrl, "57")).rejects.toThrow("--known");
    } finally {
      await other.close();
    }
  });
});
