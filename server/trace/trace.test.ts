import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { TraceLine } from "@amigo/contract/trace";
import { proven } from "../testing/openZone";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";

const DOMAIN = "lists.copperwheel.example";
const LIST = `ml-wire-parents-2627@${DOMAIN}`;
const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";

let house: TestHouse;
let juno: Client;
let listId = "";

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.readLines(
    juno,
    [
      HEAD,
      "CW-1,Holm,Ida,Mill Loft,Wire Walk,Teo Bramwell,Otto Holm,otto@lettr.example",
      "CW-2,Strand,Per,Mill Loft,Wire Walk,Teo Bramwell,Una Strand,una@lettr.example",
    ],
    { name: "Roster" },
  );
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  house.sink.refuse = (address) =>
    address.startsWith("una") ? { code: 550, words: "5.1.1 no such user, ref ZX81-77" } : undefined;
  await juno.ask("POST", "/api/posts", {
    lists: [listId],
    subject: "Rehearsal moved",
    text: "Dear families.",
    key: crypto.randomUUID(),
  });
  await until(
    "both copies to be over",
    () =>
      house.amigo.context.db.execute(
        sql`select 1 from delivery where post_id is not null and state in ('sent', 'bounced')`,
      ),
    ({ rows }) => rows.length === 2,
  );
  await proven(house, () =>
    house.mail({ from: "A Stranger <x@oakmail.example>", to: LIST, subject: "Tents for sale" }),
  );
});
afterAll(() => house.close());

const trace = async (
  q: string,
  before?: string,
): Promise<{ lines: TraceLine[]; before: string | null }> =>
  (
    await juno.ask<{ lines: TraceLine[]; before: string | null }>(
      "GET",
      `/api/mail/trace?q=${encodeURIComponent(q)}${before === undefined ? "" : `&before=${before}`}`,
    )
  ).body;
const kinds = async (q: string): Promise<string[]> =>
  (await trace(q)).lines.map(({ kind, subject }) => `${kind} ${subject}`);

test("an address leads to everything that came from it and went to it, the newest first", async () => {
  expect(await kinds("una@lettr.example")).toEqual(["copy Rehearsal moved"]);
  expect((await trace("UNA@lettr.example")).lines[0]).toMatchObject({
    state: "bounced",
    reply: expect.stringContaining("no such user"),
    list: "Wire Walk, guardians",
  });
  const stranger = (await trace("x@oakmail.example")).lines;
  expect(stranger.map(({ kind, subject }) => [kind, subject])).toEqual([
    ["copy", "Returned: Tents for sale"],
    ["in", "Tents for sale"],
  ]);
  expect(stranger[1]).toMatchObject({
    from: "A Stranger",
    proof: "spf",
    parts: [{ recipient: LIST, result: "returned", list: { id: listId } }],
  });
});

test("so do words of a subject, an id, a list by its name or address, and what the relay answered", async () => {
  expect(await kinds("tents")).toEqual(["in Tents for sale"]);
  const [line] = (await trace("tents")).lines;
  expect(await kinds((line?.id ?? "").toLowerCase())).toEqual(["in Tents for sale"]);
  for (const list of ["Wire Walk, guardians", LIST, "ml-wire-parents-2627"])
    expect(await kinds(list), list).toEqual(["in Tents for sale", "post Rehearsal moved"]);
  expect(await kinds("ZX81-77")).toEqual(["copy Rehearsal moved"]);
  expect((await trace("Rehearsal moved")).lines[0]).toMatchObject({
    sent: 1,
    waiting: 0,
    failed: 1,
  });
  expect(await kinds("nothing like it")).toEqual([]);
  expect(await kinds("%")).toEqual([]);
  expect(await kinds("")).toEqual(["in Tents for sale", "post Rehearsal moved"]);
});

test("older lines come page by page, each once", async () => {
  await house.amigo.context.db.execute(sql`
    insert into mail_in (id, at, from_address, from_name, return_path, subject, message_id, size, network, helo, secure, proof, answer)
    select 'OLD' || at, now() - make_interval(hours => at), 'many@oakmail.example', '', '', 'Many ' || at, '', 1, '', '', false, 'none', '' from generate_series(1, 150) as at`);
  const seen: string[] = [];
  let before: string | null | undefined = undefined;
  do {
    const page: { lines: TraceLine[]; before: string | null } = await trace(
      "many@oakmail.example",
      before ?? undefined,
    );
    seen.push(...page.lines.map(({ subject }) => subject));
    before = page.before;
  } while (before !== null);
  expect(seen).toEqual(Array.from({ length: 150 }, (_, at) => `Many ${at + 1}`));
});

test("it is for coordinators, and what somebody writes to people of their own choice is theirs alone", async () => {
  const ravi = await house.signIn(RAVI);
  for (const client of [ravi, await house.signIn(ODILE)])
    expect((await client.ask("GET", "/api/mail/trace")).status).toBe(403);
  await house.amigo.context.db.execute(sql`
    insert into post (id, message_id, subject, from_name, from_address, account_id, outcome, reasons)
    select gen_random_uuid(), (select id from message limit 1), 'A secret van', 'Ravi', ${RAVI}, (select id from account where email = ${RAVI}), 'goes out', '{}'`);
  await house.amigo.context.db.execute(sql`
    insert into delivery (message_id, post_id, address, token, state) select message_id, id, 'halim@oakmail.example', 'secret', 'sent' from post where subject = 'A secret van'`);
  expect(await kinds("secret")).toEqual([]);
  expect(await kinds("halim@oakmail.example")).toEqual([
    "copy A mail to people of somebody's own choice",
  ]);
  expect((await trace("halim@oakmail.example")).lines[0]).toMatchObject({ post: null });
});
