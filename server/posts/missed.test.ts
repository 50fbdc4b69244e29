import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { PostPage } from "@amigo/contract/posts";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const NAMES = ["gets", "stopped", "paused", "daily", "nothing", "leftout"] as const;
const row = (name: string, at: number): string =>
  `CW-${at},Name${name},Child${at},Mill Loft,Wire Walk,Petra Dunmore,Parent ${name},${name}@lettr.example`;

let house: TestHouse;
let juno: Client;
let listId = "";
let source = "";
const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  ({ source } = await house.readLines(juno, [HEAD, ...NAMES.map(row)], { name: "Roster" }));
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  await run(
    sql`insert into address_trouble (address, state, sort, words, since) values ('stopped@lettr.example', 'stopped', 'no mailbox', 'no such user', '2026-01-05T10:00:00Z')`,
  );
  await run(sql`insert into pause (address, until) values ('paused@lettr.example', '2099-01-31')`);
  await run(
    sql`insert into receiving (list_id, address, how_often) values (${listId}, 'daily@lettr.example', 'daily'), (${listId}, 'nothing@lettr.example', 'nothing')`,
  );
});
afterAll(() => house.close());

test("a post says of everybody on its list who got no copy why, and of whoever has joined since", async () => {
  const { id } = (
    await juno.ask<{ id: string }>("POST", "/api/posts", {
      lists: [listId],
      subject: "Why not me?",
      text: "Dear families.",
      key: crypto.randomUUID(),
    })
  ).body;
  await run(sql`delete from delivery where address = 'leftout@lettr.example'`);
  await house.readLines(juno, [HEAD, ...NAMES.map(row), row("later", 9)], { id: source });
  await house.step(juno);
  const missed = async () => (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body.missed;
  expect(await missed()).toEqual([
    expect.objectContaining({ address: "daily@lettr.example", why: "next digest", at: null }),
    expect.objectContaining({ address: "later@lettr.example", why: "joined later" }),
    expect.objectContaining({ address: "leftout@lettr.example", why: "left out" }),
    expect.objectContaining({ address: "nothing@lettr.example", why: "wants none" }),
    expect.objectContaining({ address: "paused@lettr.example", why: "paused", at: "2099-01-31" }),
    {
      address: "stopped@lettr.example",
      people: "Parent stopped",
      why: "stopped",
      at: "2026-01-05T10:00:00.000Z",
      words: "no such user",
    },
  ]);
  await run(sql`update digest_item set sent_at = now() where post_id = ${id}`);
  expect((await missed())[0]).toMatchObject({ why: "in a digest" });
  // Whoever leads another list of the post, or none, is told of nobody here.
  const marta = await house.signIn("marta.okonjo@copperwheel.example");
  const { status, body } = await marta.ask<PostPage>("GET", `/api/posts/${id}`);
  expect(status === 404 || body.missed.length === 0).toBe(true);
});
