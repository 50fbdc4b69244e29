import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { MailWeek } from "@amigo/contract/trace";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";

let house: TestHouse;
let juno: Client;
let lists: { id: string; title: string; members: number }[] = [];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  lists = (await juno.ask<typeof lists>("GET", "/api/lists?q=guardians")).body;
});
afterAll(() => house.close());

const weeks = async (of = ""): Promise<MailWeek[]> =>
  (await juno.ask<MailWeek[]>("GET", `/api/mail/weeks${of}`)).body;
const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);
const write = async (list: string | undefined, subject: string): Promise<number> => {
  const { body } = await juno.ask<{ addresses: number }>("POST", "/api/posts", {
    ...{ lists: [list], subject, text: "Dear families.", key: crypto.randomUUID() },
  });
  await until(
    "all copies",
    async () =>
      (
        await run(
          sql`select 1 from delivery join post on post.id = delivery.post_id where subject = ${subject} and state <> 'sent'`,
        )
      ).rows.length,
    (waiting) => waiting === 0,
  );
  return body.addresses;
};

test("posts and copies are counted by the weeks of the house, for a list and in all", async () => {
  const [one, two] = lists;
  const first = await write(one?.id, "Of this week");
  const second = await write(one?.id, "Of three weeks ago");
  const other = await write(two?.id, "To others");
  await run(
    sql`update delivery set created_at = created_at - interval '21 days' where post_id in (select id from post where subject = 'Of three weeks ago')`,
  );
  await run(
    sql`update delivery set state = 'bounced' where id = (select max(id) from delivery where post_id = (select id from post where subject = 'Of three weeks ago'))`,
  );
  const ofList = await weeks(`?list=${one?.id}`);
  expect(ofList).toHaveLength(12);
  expect(ofList.every(({ week }) => new Date(`${week}T00:00:00Z`).getUTCDay() === 1)).toBe(true);
  expect(ofList.at(-1)).toMatchObject({ posts: 1, copies: first, delivered: first, failed: 0 });
  expect(ofList.at(-4)).toMatchObject({
    posts: 1,
    copies: second,
    delivered: second - 1,
    failed: 1,
  });
  expect(ofList.at(-2)).toMatchObject({ posts: 0, copies: 0, delivered: 0, failed: 0 });
  expect((await weeks()).at(-1)).toMatchObject({ posts: 2, copies: first + other });
  // On the house's clocks, not on the database's: late on a Sunday in Lisbon it is Monday in Auckland.
  await run(sql`update house set time_zone = 'Pacific/Auckland'`);
  await run(
    sql`update delivery set created_at = date_trunc('week', now() at time zone 'Pacific/Auckland') at time zone 'Pacific/Auckland' - interval '1 minute' where post_id in (select id from post where subject = 'Of this week')`,
  );
  expect((await weeks(`?list=${one?.id}`)).slice(-2).map(({ posts }) => posts)).toEqual([1, 0]);
});

test("whoever sees no list of another has no figures of it", async () => {
  const ravi = await house.signIn("ravi.lindqvist@copperwheel.example");
  const mine = (await ravi.ask<{ id: string }[]>("GET", "/api/lists?q=")).body.map(({ id }) => id);
  const theirs = lists.find(({ id }) => !mine.includes(id));
  expect((await ravi.ask("GET", `/api/mail/weeks?list=${theirs?.id}`)).status).toBe(404);
  const seen = (await ravi.ask<MailWeek[]>("GET", "/api/mail/weeks")).body;
  const all = await weeks();
  expect(seen.reduce((sum, { copies }) => sum + copies, 0)).toBeLessThan(
    all.reduce((sum, { copies }) => sum + copies, 0),
  );
});
