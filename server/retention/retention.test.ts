import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { KEPT, KEPT_KINDS, keepTimes, type KeptKind } from "@amigo/core/retention/kept";
import type { Retention } from "@amigo/contract/retention";
import {
  JUNO,
  ODILE,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { removeOverTime } from "./removeOverTime";

let house: TestHouse;
let juno: Client;
const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);
/** Changes what is written once, to make it old. */
const age = (query: ReturnType<typeof sql>) =>
  house.amigo.context.db.transaction(async (tx) => {
    for (const table of ["journal", "reading"])
      await tx.execute(sql.raw(`alter table ${table} disable trigger user`));
    await tx.execute(query);
    for (const table of ["journal", "reading"])
      await tx.execute(sql.raw(`alter table ${table} enable trigger user`));
  });
const countOf = async (query: ReturnType<typeof sql>): Promise<number> =>
  Number((await run(query)).rows[0]?.count);
const page = async (): Promise<Retention> =>
  (await juno.ask<Retention>("GET", "/api/retention")).body;
const preview = async (changed: Partial<Retention["times"]>): Promise<Record<KeptKind, number>> =>
  (
    await juno.ask<Record<KeptKind, number>>("POST", "/api/retention/preview", {
      times: { ...(await page()).times, ...changed },
    })
  ).body;
const choose = async (changed: Partial<Retention["times"]>) => {
  const { times, version } = await page();
  return juno.ask<Retention & { type: string; detail: string }>("PUT", "/api/retention", {
    times: { ...times, ...changed },
    version,
  });
};
/** A night after which everything was looked at again. */
const night = async (): Promise<void> => {
  await run(sql`update house set cleaned_on = null`);
  await removeOverTime(house.amigo.context, new Date());
};

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(() => house.close());

describe("how long things are kept", () => {
  test("is as proposed in a new house, within what each kind needs at least", async () => {
    expect((await page()).times).toEqual(keepTimes({}));
    for (const kind of KEPT_KINDS)
      expect(KEPT[kind].proposed ?? Infinity).toBeGreaterThanOrEqual(KEPT[kind].least);
    const { status, body } = await choose({ deliveries: 30 });
    expect(status).toBe(400);
    expect(body.detail).toBe("Who got which post: keep them for at least 366 days.");
    expect((await choose({ journal: 0 })).status).toBe(400);
    expect((await (await house.signIn(ODILE)).ask("GET", "/api/retention")).status).toBe(403);
  });

  test("nothing recent goes, and what was previewed is what goes", async () => {
    await night();
    expect(Object.values(await preview({})).every((count) => count === 0)).toBe(true);
    await age(sql`update journal set at = at - interval '100 days' where action = 'set up'`);
    const old = await countOf(
      sql`select count(*) from journal where at < now() - interval '95 days'`,
    );
    expect((await preview({ journal: 95 })).journal).toBe(old);
    expect((await preview({ journal: null })).journal).toBe(0);
    const before = await countOf(sql`select count(*) from journal`);
    expect((await choose({ journal: 95 })).status).toBe(200);
    await night();
    // The change and the removal are two entries of their own, the latter only where something was removed.
    expect(await countOf(sql`select count(*) from journal`)).toBe(
      before - old + 1 + (old > 0 ? 1 : 0),
    );
    expect((await choose({ journal: null })).status).toBe(200);
  });

  test("is looked at once a day", async () => {
    await night();
    await age(sql`update reading set read_at = read_at - interval '2 years'`);
    await house.read(juno, "autumn-roster-week-2.xlsx", {
      id: (await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id ?? "",
    });
    await removeOverTime(house.amigo.context, new Date());
    expect((await preview({})).imports).toBe(1);
    await removeOverTime(house.amigo.context, new Date(Date.now() + 86_400_000));
    expect((await preview({})).imports).toBe(0);
  });

  test("an older import loses its file and rows, the newest and all people stay", async () => {
    const { rows } = await run(
      sql`select number, length(file) as file, (select count(*)::int from reading_row where reading_id = reading.id) as rows from reading order by number`,
    );
    expect(rows).toEqual([
      { number: 1, file: 0, rows: 0 },
      { number: 2, file: expect.any(Number), rows: expect.any(Number) },
    ]);
    expect(Number(rows[1]?.file)).toBeGreaterThan(1000);
    const faults = await run(
      sql`select count(*) filter (where written <> '')::int as told, count(*)::int as all from reading_fault join reading on reading.id = reading_fault.reading_id group by reading.number order by reading.number`,
    );
    expect(faults.rows[0]).toMatchObject({ told: 0, all: expect.any(Number) });
    expect(Number(faults.rows[0]?.all)).toBeGreaterThan(0);
    expect(Number(faults.rows[1]?.told)).toBeGreaterThan(0);
    const { status, body } = await juno.ask<{ families: unknown[]; total: number }>(
      "GET",
      "/api/people",
    );
    expect(status).toBe(200);
    expect(JSON.stringify(body)).toContain("Wire Walk");
    // The open round from the newest import still shows its evidence, as far as it is kept.
    expect((await juno.ask("GET", "/api/rounds/open")).status).toBe(200);
  });

  test("those who were invited to a date go with their answers, the date stays", async () => {
    const [list] = (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body;
    const day = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
    const { body } = await juno.ask<{ id: string }>("POST", "/api/dates", {
      title: "Long over",
      lists: [list?.id],
      when: { allDay: true, from: day, until: day },
    });
    const guests = () =>
      countOf(sql`select count(*) from calendar_guest where date_id = ${body.id}`);
    await until("invited", guests, (count) => count > 0);
    await night();
    expect(await guests()).toBeGreaterThan(0);
    await run(
      sql`update calendar_date set first_at = first_at - interval '3 years', last_at = last_at - interval '3 years' where id = ${body.id}`,
    );
    expect((await preview({})).dates).toBe(1);
    await night();
    expect(await guests()).toBe(0);
    expect((await preview({})).dates).toBe(0);
    const { status } = await juno.ask("GET", `/api/dates/${body.id}`);
    expect(status).toBe(200);
  });

  test("who opened what on a shelf goes, the thing stays", async () => {
    const [list] = (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body;
    const made = await juno.ask<{ id: string }>("POST", `/api/lists/${list?.id}/shelf/links`, {
      title: "Photos",
      link: "https://photos.brightpost.example/",
    });
    await run(
      sql`insert into shelf_opening (thing_id, address, last_at) values (${made.body.id}, 'old@lettr.example', now() - interval '3 years'), (${made.body.id}, 'new@lettr.example', now())`,
    );
    expect((await preview({})).openings).toBe(1);
    await night();
    expect(await countOf(sql`select count(*) from shelf_opening`)).toBe(1);
    const { body } = await juno.ask<{ things: unknown[] }>("GET", `/api/lists/${list?.id}/shelf`);
    expect(body.things).toHaveLength(1);
  });

  test("delivery reports lose their addresses, the counts stay", async () => {
    const [list] = (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body;
    const sent = await juno.ask<{ id: string }>("POST", "/api/posts", {
      lists: [list?.id],
      subject: "Long ago",
      text: "x",
      key: crypto.randomUUID(),
    });
    const counts = async () =>
      (await juno.ask<{ deliveries: { sent: number } }>("GET", `/api/posts/${sent.body.id}`)).body
        .deliveries.sent;
    const members = await countOf(
      sql`select count(*) from membership where list_id = ${list?.id} and valid_until is null`,
    );
    await until("sent", counts, (count) => count >= members);
    await run(
      sql`with one as (update delivery set state = 'bounced' where id = (select min(id) from delivery where post_id = ${sent.body.id}) returning id, address) insert into bounce (delivery_id, address, sort, form, words) select id, address, 'no mailbox', 'dsn', 'no mailbox for ' || address from one`,
    );
    const told = async () =>
      (await juno.ask<{ deliveries: object }>("GET", `/api/posts/${sent.body.id}`)).body.deliveries;
    const [before, toldBefore] = [await counts(), await told()];
    expect(toldBefore).toMatchObject({ bounced: 1 });
    await run(
      sql`update delivery set created_at = created_at - interval '3 years' where post_id = ${sent.body.id}`,
    );
    expect((await preview({})).deliveries).toBe(before + 1);
    await night();
    expect(await counts()).toBe(before);
    expect(
      await countOf(
        sql`select count(*) from delivery where post_id = ${sent.body.id} and address like '%@%'`,
      ),
    ).toBe(0);
    expect((await preview({})).deliveries).toBe(0);
    // The copy that came back still counts as one, but nothing says whose it was.
    expect(await told()).toEqual(toldBefore);
    expect(await countOf(sql`select count(*) from bounce where words || address like '%@%'`)).toBe(
      0,
    );
  });

  test("a past season goes whole, and the current one is untouched", async () => {
    await run(sql`with made as (insert into season (label, current, over_on) values ('2019-20', false, '2020-07-31') returning id)
      insert into fact (season_id, subject, kind, ref, value, origin, valid_from, valid_until) select made.id, fact.subject, fact.kind, fact.ref, fact.value, fact.origin, fact.valid_from, now() from fact, made where fact.season_id <> made.id limit 500`);
    const now = await countOf(
      sql`select count(*) from fact where season_id = (select id from season where current)`,
    );
    expect((await preview({})).seasons).toBe(1);
    expect((await preview({ seasons: null })).seasons).toBe(0);
    await night();
    expect(
      await countOf(
        sql`select count(*) from fact where season_id = (select id from season where label = '2019-20')`,
      ),
    ).toBe(0);
    expect(
      await countOf(
        sql`select count(*) from fact where season_id = (select id from season where current)`,
      ),
    ).toBe(now);
    const { body } = await juno.ask<{ entries: { sentence: string }[] }>(
      "GET",
      "/api/journal?action=retention",
    );
    expect(body.entries.map(({ sentence }) => sentence)).toContain(
      "Rosters of past seasons: 1 season older than 730 days removed, as Settings say",
    );
  });
});

describe("of two who change the same settings, the second is told", () => {
  test.each([
    [
      "retention",
      "/api/retention",
      async () => {
        const { times, version } = await page();
        return { times: { ...times, additions: 500 }, version };
      },
    ],
    [
      "mail",
      "/api/mail/settings",
      async () => {
        const { body } = await juno.ask<{ settings: object; version: string }>("GET", "/api/mail");
        return { ...body.settings, heldDays: 9, version: body.version };
      },
    ],
    [
      "naming",
      "/api/naming",
      async () => {
        const { body } = await juno.ask<object>("GET", "/api/naming");
        return { ...body, nameLimit: 25 };
      },
    ],
    [
      "limits",
      "/api/house/limits",
      async () => {
        const { body } = await juno.ask<{ limits: object; versions: { limits: string } }>(
          "GET",
          "/api/house",
        );
        return { ...body.limits, listFew: 7, version: body.versions.limits };
      },
    ],
    [
      "a source",
      "",
      async () => {
        const [item] = (await juno.ask<object[]>("GET", "/api/sources")).body;
        return { ...item, name: "Renamed" };
      },
    ],
  ])("%s", async (_, given, wanted) => {
    const path =
      given === ""
        ? `/api/sources/${(await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id}`
        : given;
    const body = await wanted();
    const answers = await Promise.all(
      [0, 1, 2].map(() => juno.ask<{ type?: string; version: string }>("PUT", path, body)),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
    expect(answers.find(({ status }) => status === 409)?.body.type).toBe(
      "urn:amigo:fault:changed-since",
    );
    // Whoever looked at what it is now can change it again, by what the change has answered.
    const done = answers.find(({ status }) => status === 200)?.body.version;
    expect((await juno.ask("PUT", path, { ...body, version: done })).status).toBe(200);
  });
});
