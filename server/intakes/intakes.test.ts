import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { CellRefused, IntakePage, IntakeRow } from "@amigo/contract/intakes";
import {
  JUNO,
  ODILE,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { sendGreetings } from "../notes/sendGreetings";
import { tellWatchers } from "../notes/tellWatchers";
import { carryOutDue } from "./dueIntakes";
import { warnOfEnds } from "./warnOfEnds";

const ROSTER = [
  "Student no.,Surname,First name,Class,Coach,Parent 1,Email 1",
  "CW-1,Brandt,Ida,Trapeze Two,Ravi Lindqvist,Halim Brandt,halim@oakmail.example",
  "CW-2,Quist,Éloïse,Wire Walk,Teo Bramwell,Ana Quist,ana.quist@lettr.example",
];
const ILSE = "ilse.tamm@copperwheel.example";

let house: TestHouse;
let juno: Client;
let ravi: Client;
let ilse: Client;
let odile: Client;
const lists = new Map<string, string>();
const accounts = new Map<string, string>();

beforeAll(async () => {
  house = await startTestHouse();
  [juno, ravi, ilse, odile] = await Promise.all([
    house.signIn(JUNO),
    house.signIn(RAVI),
    house.signIn(ILSE),
    house.signIn(ODILE),
  ]);
  await house.readLines(juno, ROSTER, { name: "Roster" });
  await house.step(juno);
  for (const { id, title } of (
    await juno.ask<{ lists: { id: string; title: string }[] }>("GET", "/api/lists/all")
  ).body.lists)
    lists.set(title, id);
  for (const { id, email } of (
    await juno.ask<{ accounts: { id: string; email: string }[] }>("GET", "/api/accounts")
  ).body.accounts)
    accounts.set(email, id);
  // The lists of guardians take outside addresses of anybody, so that helpers can be added.
  const { db } = house.amigo.context;
  await db.execute(
    sql`update list set rules = rules || '{"outside": "any", "joining": "asking"}'::jsonb`,
  );
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
});

const TRAPEZE = "Trapeze Two, guardians";
const WIRE = "Wire Walk, guardians";
let made = 0;

async function makeIntake(
  over: Partial<IntakePage["content"]> = {},
  by: Client = juno,
  people: { account: string; role: "lead" | "helper" }[] = [
    { account: accounts.get(ILSE) ?? "", role: "helper" },
    { account: accounts.get(RAVI) ?? "", role: "lead" },
  ],
): Promise<string> {
  made++;
  const { status, body } = await by.ask<{ id: string; detail?: string }>("POST", "/api/intakes", {
    content: {
      name: `Helpers ${made}`,
      how: "quietly",
      welcome: "",
      lists: [],
      times: null,
      ...over,
    },
    people,
  });
  expect([status, body.detail]).toEqual([200, undefined]);
  return body.id;
}

const page = async (id: string, by: Client = juno): Promise<IntakePage> =>
  (await by.ask<IntakePage>("GET", `/api/intakes/${id}`)).body;
const rowOf = async (id: string, address: string): Promise<IntakeRow | undefined> =>
  (await page(id)).rows.find(({ cells }) => cells.address === address);

/** Writes a whole row, and returns its id. */
async function writeRow(
  id: string,
  by: Client,
  cells: Partial<IntakeRow["cells"]>,
): Promise<string> {
  const row = crypto.randomUUID();
  const { status } = await by.ask("POST", `/api/intakes/${id}/cells`, {
    changes: Object.entries(cells).map(([column, is]) => ({ row, column, was: "", is })),
  });
  expect(status).toBe(200);
  return row;
}

async function approve(
  id: string,
  by: Client,
  rows: readonly string[],
  yes = true,
): Promise<{ done: number; refused: { sentence: string }[] }> {
  const versions = new Map((await page(id)).rows.map((row) => [row.id, row.version]));
  return (
    await by.ask<{ done: number; refused: { sentence: string }[] }>(
      "POST",
      `/api/intakes/${id}/approval`,
      { rows: rows.map((row) => ({ id: row, version: versions.get(row) ?? 0 })), approve: yes },
    )
  ).body;
}

const isMember = async (title: string, address: string): Promise<boolean> =>
  (
    await house.amigo.context.db.execute(
      sql`select 1 from membership where list_id = ${lists.get(title)} and address = ${address} and valid_until is null`,
    )
  ).rows.length === 1;

describe("filling an intake", () => {
  test("a helper writes a row, and nothing moves before it is approved", async () => {
    const id = await makeIntake();
    const row = await writeRow(id, ilse, {
      person: "Otto Bell",
      address: "otto@fernpost.example",
      to: "Trapeze Two",
    });
    expect(await isMember(TRAPEZE, "otto@fernpost.example")).toBe(false);
    expect(
      (
        await ilse.ask("POST", `/api/intakes/${id}/approval`, {
          rows: [{ id: row, version: 2 }],
          approve: true,
        })
      ).status,
    ).toBe(403);
    expect(await approve(id, juno, [row])).toEqual({ done: 1, refused: [] });
    expect(await isMember(TRAPEZE, "otto@fernpost.example")).toBe(true);
    expect(await rowOf(id, "otto@fernpost.example")).toMatchObject({
      outcome: "added",
      sentence: "On the list.",
      approvedBy: "Juno Abara",
      by: "Ilse Tamm",
    });
    const members = await juno.ask<{ members: { address: string; kept: string }[] }>(
      "GET",
      `/api/lists/${lists.get(TRAPEZE)}/members`,
    );
    expect(
      members.body.members.find(({ address }) => address === "otto@fernpost.example")?.kept,
    ).toContain("Otto Bell, by the additions sheet");
  });

  test("a cell that somebody else has changed meanwhile stays, and both are in its history", async () => {
    const id = await makeIntake();
    const row = await writeRow(id, ilse, { person: "Una Bell" });
    const write = (by: Client, was: string, is: string) =>
      by.ask<{ changed: number; refused: CellRefused[] }>("POST", `/api/intakes/${id}/cells`, {
        changes: [{ row, column: "person", was, is }],
      });
    expect((await write(juno, "Una Bell", "Una Marie Bell")).body).toEqual({
      changed: 1,
      refused: [],
    });
    expect((await write(ilse, "Una Bell", "Una M. Bell")).body).toEqual({
      changed: 0,
      refused: [
        {
          row,
          column: "person",
          is: "Una Marie Bell",
          sentence: "Juno Abara wrote here in the meantime.",
        },
      ],
    });
    const history = await ilse.ask<{ by: string; what: string; before: string; after: string }[]>(
      "GET",
      `/api/intakes/rows/${row}/history`,
    );
    expect(history.body.map(({ by, what, before, after }) => [by, what, before, after])).toEqual([
      ["Juno Abara", "person", "Una Bell", "Una Marie Bell"],
      ["Ilse Tamm", "person", "", "Una Bell"],
    ]);
  });

  test("two who write different cells of one new row at once both keep theirs", async () => {
    const id = await makeIntake();
    const row = crypto.randomUUID();
    const write = (by: Client, column: string, is: string) =>
      by.ask<{ changed: number; refused: CellRefused[] }>("POST", `/api/intakes/${id}/cells`, {
        changes: [{ row, column, was: "", is }],
      });
    const answers = await Promise.all([
      write(ilse, "person", "Per Holm"),
      write(juno, "address", "per@lettr.example"),
      write(ravi, "to", "Wire Walk"),
    ]);
    expect(answers.map(({ body }) => body)).toEqual(
      Array.from({ length: 3 }, () => ({ changed: 1, refused: [] })),
    );
    expect((await page(id)).rows.map(({ cells }) => cells)).toEqual([
      { person: "Per Holm", address: "per@lettr.example", to: "Wire Walk", from: "", until: "" },
    ]);
  });

  test("faults are told at their cells with what was probably meant", async () => {
    const id = await makeIntake();
    await writeRow(id, ilse, {
      person: "Otto Bell",
      address: "otto.two@fernpost,example",
      to: "Trapese Two, guardians",
      from: "soon",
      until: "2020-01-01",
    });
    const [row] = (await page(id)).rows;
    expect(row?.faults.map(({ column, proposal }) => [column, proposal])).toEqual([
      ["address", "otto.two@fernpost.example"],
      ["to", TRAPEZE],
      ["from", undefined],
      ["until", undefined],
    ]);
    expect((await approve(id, juno, [row?.id ?? ""])).refused[0]?.sentence).toContain(
      "Did you mean otto.two@fernpost.example?",
    );
  });

  test("rows are taken out and put in again; what was carried out stays", async () => {
    const id = await makeIntake();
    const one = await writeRow(id, ilse, {
      person: "Aba Bell",
      address: "aba@fernpost.example",
      to: TRAPEZE,
    });
    const other = await writeRow(id, ilse, { person: "Mistake" });
    await approve(id, juno, [one]);
    expect(
      (
        await ilse.ask<{ changed: number }>("POST", `/api/intakes/${id}/remove`, {
          rows: [one, other],
        })
      ).body.changed,
    ).toBe(1);
    expect((await page(id)).rows.map((row) => row.id)).toEqual([one]);
    expect(
      (
        await ilse.ask<{ changed: number }>("POST", `/api/intakes/${id}/remove`, {
          rows: [other],
          back: true,
        })
      ).body.changed,
    ).toBe(1);
    expect((await page(id)).rows).toHaveLength(2);
    const late = await ilse.ask<{ refused: CellRefused[] }>("POST", `/api/intakes/${id}/cells`, {
      changes: [{ row: one, column: "person", was: "Aba Bell", is: "Ada Bell" }],
    });
    expect(late.body.refused[0]?.sentence).toContain("carried out already");
  });

  test("whoever it was not given to sees none of it", async () => {
    const id = await makeIntake({}, juno, []);
    for (const other of [ilse, ravi, odile]) {
      expect((await other.ask("GET", `/api/intakes/${id}`)).status).toBe(404);
      expect(
        (
          await other.ask("POST", `/api/intakes/${id}/cells`, {
            changes: [{ row: crypto.randomUUID(), column: "person", was: "", is: "x" }],
          })
        ).status,
      ).toBe(404);
      expect(
        (await other.ask<{ intakes: { id: string }[] }>("GET", "/api/intakes")).body.intakes.map(
          (intake) => intake.id,
        ),
      ).not.toContain(id);
      expect(
        (await other.ask("PUT", "/api/watch", { what: "intake", id, watching: true })).status,
      ).toBe(404);
    }
    const row = await writeRow(id, juno, { person: "Secret" });
    expect((await ilse.ask("GET", `/api/intakes/rows/${row}/history`)).status).toBe(404);
    // A row of another intake is not written through one's own.
    const foundIntake = await makeIntake();
    expect(
      (
        await ilse.ask("POST", `/api/intakes/${foundIntake}/cells`, {
          changes: [{ row, column: "person", was: "Secret", is: "Known" }],
        })
      ).status,
    ).toBe(404);
  });

  test("of two who change what an intake is, the second is told", async () => {
    const id = await makeIntake();
    const { version, content } = await page(id);
    const change = (name: string) =>
      juno.ask<{ detail: string }>("PUT", `/api/intakes/${id}`, {
        content: { ...content, name },
        people: [],
        version,
      });
    expect((await change("First name of it")).status).toBe(200);
    expect((await change("Second name of it")).body.detail).toContain(
      "Somebody else changed this sheet",
    );
    expect(
      (await ilse.ask("PUT", `/api/intakes/${id}`, { content, people: [], version: version + 1 }))
        .status,
    ).toBe(403);
  });
});

describe("approving", () => {
  test("a lead approves for the lists that they lead, and for no other", async () => {
    const id = await makeIntake();
    const mine = await writeRow(id, ilse, {
      person: "Cleo Bell",
      address: "cleo@fernpost.example",
      to: TRAPEZE,
    });
    const others = await writeRow(id, ilse, {
      person: "Cleo Bell",
      address: "cleo@fernpost.example",
      to: WIRE,
    });
    const answer = await approve(id, ravi, [mine, others]);
    expect([answer.done, answer.refused.map(({ sentence }) => sentence)]).toEqual([
      1,
      [`You can't add people to ${WIRE}. Its lead or a coordinator can approve this.`],
    ]);
    expect([
      await isMember(TRAPEZE, "cleo@fernpost.example"),
      await isMember(WIRE, "cleo@fernpost.example"),
    ]).toEqual([true, false]);
    expect(
      (
        await ravi.ask("POST", "/api/intakes", {
          content: { name: "All of it", how: "quietly", welcome: "", lists: [], times: null },
          people: [],
        })
      ).status,
    ).toBe(403);
  });

  test("what has changed since it was seen is not approved, and an approved row that is changed no longer is", async () => {
    const id = await makeIntake({ times: { days: [1], times: ["03:00"] } });
    const row = await writeRow(id, ilse, {
      person: "Dora Bell",
      address: "dora@fernpost.example",
      to: TRAPEZE,
    });
    const [seen] = (await page(id)).rows;
    await ilse.ask("POST", `/api/intakes/${id}/cells`, {
      changes: [
        { row, column: "address", was: "dora@fernpost.example", is: "eve@fernpost.example" },
      ],
    });
    const late = await juno.ask<{ done: number; refused: { sentence: string }[] }>(
      "POST",
      `/api/intakes/${id}/approval`,
      { rows: [{ id: row, version: seen?.version ?? 0 }], approve: true },
    );
    expect([late.body.done, late.body.refused[0]?.sentence]).toEqual([
      0,
      "Ilse Tamm has changed this row since you looked. Check it again.",
    ]);
    await approve(id, juno, [row]);
    expect((await page(id)).rows[0]?.approvedBy).toBe("Juno Abara");
    await ilse.ask("POST", `/api/intakes/${id}/cells`, {
      changes: [
        { row, column: "address", was: "eve@fernpost.example", is: "dora@fernpost.example" },
      ],
    });
    expect((await page(id)).rows[0]?.approvedBy).toBe("");
  });

  test("each row says what happened to it: added, there already, asked, waiting, refused", async () => {
    const { db } = house.amigo.context;
    await db.execute(
      sql`update list set rules = rules || '{"outsideWait": "lead"}'::jsonb where id = ${lists.get(WIRE)}`,
    );
    await juno.ask("POST", `/api/lists/${lists.get(TRAPEZE)}/kept`, {
      address: "gone@fernpost.example",
      side: "off",
      reason: "has moved away",
    });
    const id = await makeIntake();
    const rows = [
      await writeRow(id, ilse, {
        person: "Fay Bell",
        address: "fay@fernpost.example",
        to: TRAPEZE,
      }),
      await writeRow(id, ilse, {
        person: "Halim Brandt",
        address: "halim@oakmail.example",
        to: TRAPEZE,
      }),
      await writeRow(id, ilse, {
        person: "Fay Bell",
        address: "FAY@fernpost.example",
        to: TRAPEZE,
      }),
      await writeRow(id, ilse, {
        person: "Gone Bell",
        address: "gone@fernpost.example",
        to: TRAPEZE,
      }),
      await writeRow(id, ilse, { person: "Gil Bell", address: "gil@fernpost.example", to: WIRE }),
    ];
    expect((await approve(id, juno, rows)).done).toBe(5);
    expect((await page(id)).rows.map(({ outcome }) => outcome)).toEqual([
      "added",
      "already",
      "already",
      "refused",
      "waiting",
    ]);
    expect((await rowOf(id, "gone@fernpost.example"))?.sentence).toBe(
      "Never on this list, set by Juno Abara: has moved away.",
    );
    const waiting = (
      await juno.ask<{ waiting: { id: string }[] }>("GET", `/api/lists/${lists.get(WIRE)}`)
    ).body.waiting;
    await juno.ask("POST", `/api/lists/${lists.get(WIRE)}/agree`, {
      ids: waiting.map((item) => item.id),
      agree: true,
    });
    expect(await rowOf(id, "gil@fernpost.example")).toMatchObject({
      outcome: "added",
      sentence: expect.stringContaining("A lead agreed"),
    });
    const asking = await makeIntake({ how: "ask", welcome: "Dear {first name}, come in." });
    const asked = await writeRow(asking, ilse, {
      person: "Hedda Bell",
      address: "hedda@fernpost.example",
      to: TRAPEZE,
    });
    await approve(asking, juno, [asked]);
    expect(await rowOf(asking, "hedda@fernpost.example")).toMatchObject({ outcome: "asked" });
    const link =
      /\/yes\/\w+/.exec(
        await house.mailTo("hedda@fernpost.example", "Would you like to be on"),
      )?.[0] ?? "";
    await fetch(`${house.url}${link}`, { method: "POST" });
    expect(await rowOf(asking, "hedda@fernpost.example")).toMatchObject({
      outcome: "added",
      sentence: expect.stringContaining("Said yes"),
    });
    expect(await house.mailTo("hedda@fernpost.example", "Welcome to")).toContain(
      "Dear Hedda, come in.",
    );
  });

  test("nobody is welcomed twice, whatever brings them", async () => {
    const id = await makeIntake({
      how: "welcome",
      welcome: "Dear {first name|friend}, welcome to {list}.",
    });
    const row = await writeRow(id, ilse, {
      person: "Ivo Bell",
      address: "ivo@fernpost.example",
      to: TRAPEZE,
    });
    await approve(id, juno, [row]);
    expect(await house.mailTo("ivo@fernpost.example", "Welcome to Trapeze Two")).toContain(
      "Dear Ivo, welcome to Trapeze Two, guardians.",
    );
    const again = await makeIntake({ how: "welcome" });
    await approve(again, juno, [
      await writeRow(again, ilse, {
        person: "Ivo Bell",
        address: "ivo@fernpost.example",
        to: TRAPEZE,
      }),
    ]);
    await juno.ask("POST", `/api/lists/${lists.get(TRAPEZE)}/let-go`, {
      address: "ivo@fernpost.example",
    });
    await juno.ask("POST", `/api/lists/${lists.get(TRAPEZE)}/members`, {
      addresses: ["ivo@fernpost.example"],
      how: "welcome",
      reason: "back again",
    });
    await sendGreetings(house.amigo.context);
    const { rows } = await house.amigo.context.db.execute(
      sql`select kind from greeting where address = 'ivo@fernpost.example'`,
    );
    expect(rows).toEqual([{ kind: "welcome" }]);
  });

  test("whoever was asked and has not answered is asked once more, by a link that works beside the first, and then left in peace", async () => {
    const id = await makeIntake({ how: "ask" });
    await approve(id, juno, [
      await writeRow(id, ilse, {
        person: "Jana Bell",
        address: "jana@fernpost.example",
        to: TRAPEZE,
      }),
    ]);
    await house.mailTo("jana@fernpost.example", "Would you like to be on");
    const later = (days: number): Date => new Date(Date.now() + days * 86_400_000);
    expect(await sendGreetings(house.amigo.context, later(2))).toBe(0);
    await sendGreetings(house.amigo.context, later(6));
    const link =
      /\/yes\/\w+/.exec(await house.mailTo("jana@fernpost.example", "Once more"))?.[0] ?? "";
    expect(await sendGreetings(house.amigo.context, later(30))).toBe(0);
    await fetch(`${house.url}${link}`, { method: "POST" });
    expect(await isMember(TRAPEZE, "jana@fernpost.example")).toBe(true);
  });
});

describe("days and times", () => {
  const at = (day: string, time = "12:00"): Date => new Date(`${day}T${time}:00Z`);

  test("approved rows wait for the set time, and a first day for its day", async () => {
    const id = await makeIntake({ times: { days: [1, 2, 3, 4, 5, 6, 7], times: ["16:00"] } });
    const now = await writeRow(id, ilse, {
      person: "Kay Bell",
      address: "kay@fernpost.example",
      to: TRAPEZE,
    });
    const then = await writeRow(id, ilse, {
      person: "Lea Bell",
      address: "lea@fernpost.example",
      to: TRAPEZE,
      from: "2090-03-01",
    });
    await approve(id, juno, [now, then]);
    await carryOutDue(house.amigo.context, new Date());
    expect((await page(id)).rows.map(({ outcome }) => outcome)).toEqual(["", ""]);
    const tomorrow = new Date(Date.now() + 25 * 3_600_000);
    await carryOutDue(house.amigo.context, tomorrow);
    expect((await page(id)).rows.map(({ outcome }) => outcome)).toEqual(["added", ""]);
    await carryOutDue(house.amigo.context, at("2090-03-02"));
    expect((await page(id)).rows.map(({ outcome }) => outcome)).toEqual(["added", "added"]);
  });

  test("a row of an intake without set times waits for its first day, and is carried out in the hour after it has begun", async () => {
    const id = await makeIntake();
    await approve(id, juno, [
      await writeRow(id, ilse, {
        person: "Oli Bell",
        address: "oli@fernpost.example",
        to: TRAPEZE,
        from: "2091-03-01",
      }),
    ]);
    await carryOutDue(house.amigo.context, at("2091-02-28"), true);
    expect((await page(id)).rows[0]?.outcome).toBe("");
    await carryOutDue(house.amigo.context, at("2091-03-01"), true);
    expect((await page(id)).rows[0]?.outcome).toBe("added");
  });

  test("two workers at once carry each row out once", async () => {
    const id = await makeIntake({ how: "welcome" });
    const rows = await Promise.all(
      Array.from({ length: 12 }, (_, index) =>
        writeRow(id, ilse, {
          person: `Twin ${index}`,
          address: `twin${index}@fernpost.example`,
          to: TRAPEZE,
        }),
      ),
    );
    await Promise.all([
      approve(id, juno, rows),
      ...Array.from({ length: 4 }, () => carryOutDue(house.amigo.context, new Date())),
    ]);
    expect((await page(id)).rows.map(({ outcome }) => outcome)).toEqual(Array(12).fill("added"));
    await until(
      "the welcomes",
      () => house.sink.mails.filter(({ to }) => to.startsWith("twin")).length,
      (sent) => sent === 12,
    );
  });

  test("after the last day the person leaves by a round of its own, a lead being told a week before; and it can be taken back", async () => {
    const id = await makeIntake();
    const row = await writeRow(id, ilse, {
      person: "Mia Bell",
      address: "mia@fernpost.example",
      to: TRAPEZE,
      until: "2090-03-31",
    });
    await approve(id, juno, [row]);
    expect(await rowOf(id, "mia@fernpost.example")).toMatchObject({
      outcome: "added",
      sentence: "On the list until 31 Mar 2090.",
    });
    expect(await warnOfEnds(house.amigo.context, at("2090-03-01"))).toBe(0);
    expect(await warnOfEnds(house.amigo.context, at("2090-03-25"))).toBe(1);
    expect(await warnOfEnds(house.amigo.context, at("2090-03-26"))).toBe(0);
    expect(await house.mailTo(RAVI, "leaves within a week")).toContain(
      "Mia Bell (mia@fernpost.example), last day 31 Mar 2090",
    );
    const before =
      (
        await house.amigo.context.db.execute<{ count: number }>(
          sql`select count(*)::int as count from round where state = 'done'`,
        )
      ).rows[0]?.count ?? 0;
    await house.amigo.context.desk.run("endUntil", { now: at("2090-03-31") });
    expect(await isMember(TRAPEZE, "mia@fernpost.example")).toBe(true);
    await house.amigo.context.desk.run("endUntil", { now: at("2090-04-01") });
    await house.amigo.context.desk.run("endUntil", { now: at("2090-04-01") });
    expect(await isMember(TRAPEZE, "mia@fernpost.example")).toBe(false);
    expect(await rowOf(id, "mia@fernpost.example")).toMatchObject({ outcome: "ended" });
    const rounds = (
      await house.amigo.context.db.execute<{ number: number }>(
        sql`select number from round where state = 'done' order by number`,
      )
    ).rows;
    expect(rounds.length).toBe(before + 1);
    const { status } = await juno.ask("POST", `/api/rounds/${rounds.at(-1)?.number}/back`, {
      passed: {},
    });
    expect(status).toBe(200);
    expect(await isMember(TRAPEZE, "mia@fernpost.example")).toBe(true);
  });

  test("a later day by hand goes before the intake's", async () => {
    const id = await makeIntake();
    await approve(id, juno, [
      await writeRow(id, ilse, {
        person: "Noa Bell",
        address: "noa@fernpost.example",
        to: TRAPEZE,
        until: "2090-05-31",
      }),
    ]);
    await juno.ask("POST", `/api/lists/${lists.get(TRAPEZE)}/kept`, {
      address: "noa@fernpost.example",
      side: "on",
      reason: "stays on",
      lastDay: "",
    });
    await house.amigo.context.desk.run("endUntil", { now: at("2090-06-01") });
    expect(await isMember(TRAPEZE, "noa@fernpost.example")).toBe(true);
  });
});

test("whoever watches an intake or a list is told when somebody was added, at most once an hour, and no member is named", async () => {
  const id = await makeIntake();
  await juno.ask("PUT", "/api/watch", { what: "intake", id, watching: true });
  await juno.ask("PUT", "/api/watch", { what: "list", id: lists.get(TRAPEZE), watching: true });
  expect((await page(id)).watching).toBe(true);
  const told = async (minutes: number): Promise<number> =>
    tellWatchers(house.amigo.context, new Date(Date.now() + minutes * 60_000));
  expect(await told(0)).toBe(0);
  const add = async (name: string): Promise<void> => {
    await approve(id, juno, [
      await writeRow(id, ilse, { person: name, address: `${name}@fernpost.example`, to: TRAPEZE }),
    ]);
  };
  await add("oda");
  expect(await told(0)).toBe(1);
  const note = await house.mailTo(JUNO, "added to what you watch");
  expect(note).not.toContain("oda@fernpost.example");
  await add("pia");
  expect(await told(30)).toBe(0);
  expect(await told(61)).toBe(1);
  expect(await told(130)).toBe(0);
  await juno.ask("PUT", "/api/watch", { what: "list", id: lists.get(TRAPEZE), watching: false });
  expect(
    (await juno.ask<{ watching: boolean }>("GET", `/api/lists/${lists.get(TRAPEZE)}`)).body
      .watching,
  ).toBe(false);
});

test("a welcome is shown as any member would get it, with its faults, and only for lists that one sees", async () => {
  const look = (by: Client, text: string, as = "halim") =>
    by.ask<{ subject: string; text: string; to: string; faults: { at: number }[] }>(
      "POST",
      "/api/welcome/preview",
      { text, list: lists.get(TRAPEZE), as },
    );
  const { body } = await look(
    juno,
    "Dear {first name}, {children} is in {class}. {lead} leads {list}. {if nobody}",
  );
  expect([body.to, body.text.split("\r\n")[0], body.faults.length]).toEqual([
    "halim@oakmail.example",
    "Dear Halim, Ida is in Trapeze Two. Ravi Lindqvist leads Trapeze Two, guardians. {if nobody}",
    1,
  ]);
  expect(
    (await juno.ask("POST", "/api/welcome/preview", { text: "", list: lists.get(WIRE), as: "" }))
      .status,
  ).toBe(200);
  expect(
    (await ravi.ask("POST", "/api/welcome/preview", { text: "", list: lists.get(WIRE), as: "" }))
      .status,
  ).toBe(404);
});

test("everything that was sent to a person stands in their timeline, with what happened to it; what somebody else wrote to them alone is not told", async () => {
  await juno.ask("POST", "/api/posts", {
    lists: [lists.get(TRAPEZE)],
    subject: "Rehearsal on Friday",
    text: "Dear families.",
    key: crypto.randomUUID(),
  });
  await until(
    "the mail",
    () =>
      house.sink.mails.filter(
        ({ to, raw }) => to === "halim@oakmail.example" && raw.includes("Rehearsal on Friday"),
      ).length,
    (sent) => sent === 1,
  );
  const { body: found } = await juno.ask<{
    families: { people: { id: string; name: string }[] }[];
  }>("GET", "/api/people?q=halim");
  const halim = found.families[0]?.people.find(({ name }) => name === "Halim Brandt")?.id ?? "";
  const told = async (by: Client): Promise<string[]> =>
    (
      await by.ask<{ timeline: { what: string; sign: string }[] }>("GET", `/api/people/${halim}`)
    ).body.timeline
      .filter(({ sign }) => sign === "→")
      .map(({ what }) => what);
  await until(
    "it stands there as sent",
    () => told(juno),
    (lines) =>
      lines.includes(`“Rehearsal on Friday” by way of ${TRAPEZE}, to halim@oakmail.example`),
  );
  await house.amigo.context.connection.pool.query(
    "with made as (insert into post (message_id, subject, from_name, from_address, account_id, outcome, reasons) select id, 'A private word', 'Ravi Lindqvist', 'ravi.lindqvist@copperwheel.example', $1, 'goes out', '{}' from message limit 1 returning id, message_id) insert into delivery (message_id, post_id, address, token, state) select message_id, id, 'halim@oakmail.example', 'privately', 'bounced' from made",
    [accounts.get(RAVI)],
  );
  expect(await told(juno)).toContain(
    "a mail from Ravi Lindqvist, to halim@oakmail.example, bounced",
  );
  expect((await told(juno)).join(" ")).not.toContain("private word");
});
