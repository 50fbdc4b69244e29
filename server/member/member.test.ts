import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { MemberLists, MemberPost } from "@amigo/contract/member";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";
import { roundOf } from "../testing/roundOf";

const PAVEL = "pbellweather@fernpost.example";

let house: TestHouse;
let juno: Client;
let pavel: Client;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  pavel = await openPage(PAVEL);
});
afterAll(() => house.close());

const linkTo = async (address: string): Promise<string> => {
  house.sink.mails.length = 0;
  expect((await house.client().ask("POST", "/api/member/link", { address })).status).toBe(200);
  return /\/member\/([\w-]+)/.exec(await house.mailTo(address, "Open your page"))?.[1] ?? "";
};
const openPage = async (address: string): Promise<Client> => {
  const client = house.client();
  expect(
    (await client.ask("POST", "/api/member/enter", { token: await linkTo(address) })).status,
  ).toBe(200);
  return client;
};
const page = async (client = pavel): Promise<MemberLists> =>
  (await client.ask<MemberLists>("GET", "/api/member")).body;
const listOf = async (words: string): Promise<MemberLists["lists"][number]> => {
  const found = (await page()).lists.find(({ title }) => title.includes(words));
  if (found === undefined) throw new Error(`not on ${words}`);
  return found;
};
async function write(id: string, subject: string): Promise<void> {
  expect(
    (
      await juno.ask("POST", "/api/posts", {
        lists: [id],
        subject,
        text: "Dear families.",
        key: crypto.randomUUID(),
      })
    ).status,
  ).toBe(200);
}
const got = (subject: string, address: string): boolean =>
  house.sink.mails.some(({ to, raw }) => to === address && raw.includes(`Subject: ${subject}`));
const arrived = (subject: string) =>
  until(
    `"${subject}"`,
    () => house.sink.mails.filter(({ raw }) => raw.includes(`Subject: ${subject}`)).length,
    (count) => count >= 20,
  );
const edit = async (key: string, points: object): Promise<void> => {
  const wanted = { what: "lists", aliasUntil: "", lists: [{ key, points }] };
  const { body } = await juno.ask<{ version: number }>("POST", "/api/edits/plan", { edit: wanted });
  expect(
    (await juno.ask("POST", "/api/edits", { edit: wanted, version: body.version, passed: {} }))
      .status,
  ).toBe(200);
};

describe("the member page", () => {
  test("opens by a link that is good once, and shows lists and why, addresses, and the children's classes", async () => {
    expect(await page()).toMatchObject({
      address: PAVEL,
      pausedUntil: "",
      addresses: [{ address: PAVEL }],
      children: expect.arrayContaining([{ name: "Freya Bellweather", classes: ["Juggling One"] }]),
    });
    expect(await listOf("Juggling One")).toMatchObject({
      because: "guardian of Freya Bellweather",
      howOften: "every message",
      mayLeave: true,
      readsArchive: true,
      members: null,
    });
    const token = await linkTo(PAVEL);
    expect((await house.client().ask("POST", "/api/member/enter", { token })).status).toBe(200);
    expect((await house.client().ask("POST", "/api/member/enter", { token })).status).toBe(422);
    expect((await house.client().ask("GET", "/api/member")).status).toBe(401);
    expect((await pavel.ask("GET", "/api/board")).status).toBe(401);
  });

  test("whether an address is on a list is told to nobody else", async () => {
    house.sink.mails.length = 0;
    const ask = (address: string) => house.client().ask("POST", "/api/member/link", { address });
    const [known, unknown] = [
      await ask("cingleby@lettr.example"),
      await ask("stranger@brightpost.example"),
    ];
    expect([unknown.status, unknown.body]).toEqual([known.status, known.body]);
    await house.mailTo("cingleby@lettr.example", "Open your page");
    expect(house.sink.mails.some(({ to }) => to === "stranger@brightpost.example")).toBe(false);
  });

  test("how often, and a pause, hold for the next post", async () => {
    const { id } = await listOf("Juggling One");
    await pavel.ask("PUT", `/api/member/lists/${id}/how-often`, { howOften: "nothing" });
    expect(
      (
        await juno.ask<{ members: { gets: string }[] }>(
          "GET",
          `/api/lists/${id}/members?q=${PAVEL}`,
        )
      ).body.members[0]?.gets,
    ).toBe("nothing by mail");
    await write(id, "Quiet one");
    await arrived("Quiet one");
    expect(got("Quiet one", PAVEL)).toBe(false);
    await pavel.ask("PUT", `/api/member/lists/${id}/how-often`, { howOften: "every message" });
    expect((await pavel.ask("PUT", "/api/member/pause", { until: "2020-01-01" })).status).toBe(422);
    expect((await pavel.ask("PUT", "/api/member/pause", { until: "2099-01-01" })).status).toBe(200);
    expect((await page()).pausedUntil).toBe("2099-01-01");
    expect(
      (
        await juno.ask<{ members: { gets: string }[] }>(
          "GET",
          `/api/lists/${id}/members?q=${PAVEL}`,
        )
      ).body.members[0]?.gets,
    ).toBe("nothing until 1 Jan 2099");
    await write(id, "While away");
    await arrived("While away");
    expect(got("While away", PAVEL)).toBe(false);
    await pavel.ask("PUT", "/api/member/pause", { until: "" });
    await write(id, "Back again");
    await house.mailTo(PAVEL, "Subject: Back again");
  });

  test("shows what was written where members may read it, and who else is on it only where the rules say so", async () => {
    const { id } = await listOf("Juggling One");
    expect(
      (await pavel.ask<MemberPost[]>("GET", `/api/member/lists/${id}/posts`)).body.map(
        ({ subject }) => subject,
      ),
    ).toContain("Back again");
    expect((await pavel.ask("GET", `/api/member/lists/${id}/members`)).status).toBe(404);
    await edit("2:class:juggling one", { archive: "leads" });
    expect((await pavel.ask("GET", `/api/member/lists/${id}/posts`)).status).toBe(404);
    const [newest] = (await juno.ask<{ id: string }[]>("GET", `/api/posts?list=${id}`)).body;
    const postPage = async () => (await juno.ask("GET", `/api/posts/${newest?.id ?? ""}`)).body;
    expect(await postPage()).toMatchObject({
      kept: true,
      text: expect.stringContaining("Dear families."),
    });
    await edit("2:class:juggling one", { archive: "none" });
    expect(await postPage()).toMatchObject({ kept: false, text: "", attachments: [] });
    const { body } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire walk guardians");
    for (const path of ["posts", "members"])
      expect(
        (await pavel.ask("GET", `/api/member/lists/${body[0]?.id ?? ""}/${path}`)).status,
      ).toBe(404);
  });

  test("a new address counts once its own link was opened, by the next round", async () => {
    expect(
      (await pavel.ask("POST", "/api/member/addresses", { address: "pavel,b@lettr.example" }))
        .status,
    ).toBe(422);
    expect(
      (await pavel.ask("POST", "/api/member/addresses", { address: "pavel.b@copperwheel.example" }))
        .status,
    ).toBe(422);
    expect(
      (await pavel.ask("POST", "/api/member/addresses", { address: "pavel.b@lettr.example" }))
        .status,
    ).toBe(200);
    const token =
      /\/member\/address\/([\w-]+)/.exec(
        await house.mailTo("pavel.b@lettr.example", "Is this your address?"),
      )?.[1] ?? "";
    expect((await juno.ask<unknown>("GET", "/api/rounds/open")).body).toBeNull();
    expect(
      (await house.client().ask("POST", "/api/member/confirm-address", { token })).body,
    ).toEqual({ address: "pavel.b@lettr.example" });
    expect(
      (await house.client().ask("POST", "/api/member/confirm-address", { token })).status,
    ).toBe(422);
    const body = await roundOf(juno);
    expect(body.causes.map(({ detail }) => detail)).toContain(`${PAVEL} → pavel.b@lettr.example`);
  });

  test("what is wrong is told to the coordinators, and nothing in it breaks out of its mail", async () => {
    expect(
      (
        await pavel.ask("POST", "/api/member/wrong", {
          about: "Freya Bellweather\r\nBcc: x@y.example",
          text: "She is in Juggling Two.",
        })
      ).status,
    ).toBe(200);
    const mail = await house.mailTo(JUNO, "She is in Juggling Two");
    expect(mail).not.toMatch(/^Bcc:/m);
  });

  test("leaves a list where members may, for good; where they may not, is told through whom", async () => {
    const { id } = await listOf("Aerial Silks");
    await edit("2:class:aerial silks start", { leaving: "through a lead" });
    expect((await pavel.ask("POST", `/api/member/lists/${id}/leave`)).status).toBe(403);
    expect((await page()).lists.find((list) => list.id === id)?.leadsAddress).toBe(
      "ml-silks-parents-2627+leads@lists.copperwheel.example",
    );
    await edit("2:class:aerial silks start", { leaving: "by oneself" });
    expect((await pavel.ask("POST", `/api/member/lists/${id}/leave`)).status).toBe(200);
    expect((await page()).lists.map((list) => list.id)).not.toContain(id);
    await house.read(juno, "autumn-roster.ods", {
      id: (await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id ?? "",
    });
    expect((await page()).lists.map((list) => list.id)).not.toContain(id);
  });

  test("lists that are open to inside are found there: come onto, or asked for and agreed to by a lead", async () => {
    await edit("5:class:wire walk", {
      findable: "inside",
      joining: "request",
      description: "Coaches of the wire",
    });
    const ravi = await openPage("ravi.lindqvist@copperwheel.example");
    const found = (await page(ravi)).open;
    expect(found).toMatchObject([{ title: "Wire Walk, coaches", how: "ask", asked: false }]);
    expect((await page()).open).toEqual([]);
    const id = found[0]?.id ?? "";
    expect((await pavel.ask("POST", `/api/member/lists/${id}/join`)).status).toBe(404);
    expect((await ravi.ask("POST", `/api/member/lists/${id}/join`)).body).toEqual({
      member: false,
    });
    expect((await page(ravi)).open[0]?.asked).toBe(true);
    await house.mailTo("teo.bramwell@copperwheel.example", "asks to come onto Wire Walk");
    const teo = await house.signIn("teo.bramwell@copperwheel.example");
    const { body: list } = await teo.ask<{ waiting: { id: string; address: string }[] }>(
      "GET",
      `/api/lists/${id}`,
    );
    expect(list.waiting.map(({ address }) => address)).toEqual([
      "ravi.lindqvist@copperwheel.example",
    ]);
    expect(
      (
        await teo.ask("POST", `/api/lists/${id}/agree`, {
          ids: list.waiting.map((item) => item.id),
          agree: true,
        })
      ).body,
    ).toEqual({ members: 1 });
    expect((await page(ravi)).lists.map(({ title }) => title)).toContain("Wire Walk, coaches");
  });

  test("an archive for anyone inside is read there, by nobody from outside", async () => {
    await edit("6:house", { findable: "inside", archive: "inside" });
    const { body } = await juno.ask<{ id: string; title: string }[]>("GET", "/api/lists?q=staff");
    await write(body.find(({ title }) => title === "Staff")?.id ?? "", "For the house");
    const student = await openPage("cw-4020@copperwheel.example");
    const found = (await page(student)).open.find(({ title }) => title === "Staff");
    expect(found).toMatchObject({ how: "no", readsArchive: true });
    expect(
      (
        await student.ask<MemberPost[]>("GET", `/api/member/lists/${found?.id ?? ""}/posts`)
      ).body.map(({ subject }) => subject),
    ).toEqual(["For the house"]);
    expect((await student.ask("POST", `/api/member/lists/${found?.id ?? ""}/join`)).status).toBe(
      404,
    );
    expect((await pavel.ask("GET", `/api/member/lists/${found?.id ?? ""}/posts`)).status).toBe(404);
  });

  test("who may see the members by the rules sees them, and nothing else of the list", async () => {
    const { body } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=juggling two guardians");
    const id = body[0]?.id ?? "";
    const ravi = await house.signIn("ravi.lindqvist@copperwheel.example");
    expect((await ravi.ask("GET", `/api/lists/${id}`)).status).toBe(404);
    await edit("2:class:juggling two", { findable: "staff", roster: "staff" });
    expect((await ravi.ask("GET", `/api/lists/${id}`)).body).toMatchObject({
      may: { change: false, add: false, decide: false, see: false },
    });
    expect(
      (await ravi.ask<{ total: number }>("GET", `/api/lists/${id}/members`)).body.total,
    ).toBeGreaterThan(20);
    for (const path of ["kept", "journal"])
      expect((await ravi.ask("GET", `/api/lists/${id}/${path}`)).status, path).toBe(404);
  });

  test("closed, it opens no more by the same cookie", async () => {
    const client = await openPage("cingleby@lettr.example");
    const kept = client.cookie;
    await client.ask("POST", "/api/member/sign-out");
    expect((await house.client(kept).ask("GET", "/api/member")).status).toBe(401);
  });
});

describe("somebody who left", () => {
  const sql = (text: string) => house.amigo.context.connection.pool.query(text);

  test("is exported whole, and removed for good while the counts of past days stay", async () => {
    const { source } = await house.readLines(
      juno,
      [
        "Student no.,Surname,First name,Class,Parent 1,Email 1",
        "CW-9901,Quenby,Otis,Wire Walk,Hedda Quenby,hedda.quenby@oakmail.example",
        "CW-9902,Eastlake,Wren,Wire Walk,Tove Eastlake,tove@lettr.example",
      ],
      { name: "Late" },
    );
    await house.step(juno);
    const { body: lists } = await juno.ask<{ id: string }[]>(
      "GET",
      "/api/lists?q=wire walk guardians",
    );
    const today = new Date().toISOString().slice(0, 10);
    const count = async (): Promise<number> =>
      (
        await juno.ask<{ total: number }>(
          "GET",
          `/api/lists/${lists[0]?.id ?? ""}/members?on=${today}`,
        )
      ).body.total;
    const people = await juno.ask<{ families: { people: { id: string; name: string }[] }[] }>(
      "GET",
      "/api/people?q=hedda quenby",
    );
    const hedda =
      people.body.families
        .flatMap((family) => family.people)
        .find(({ name }) => name === "Hedda Quenby")?.id ?? "";
    expect(
      (await juno.ask("POST", `/api/people/${hedda}/forget`, { name: "Hedda Quenby" })).status,
    ).toBe(409);
    await house.readLines(
      juno,
      [
        "Student no.,Surname,First name,Class,Parent 1,Email 1",
        "CW-9902,Eastlake,Wren,Wire Walk,Tove Eastlake,tove@lettr.example",
      ],
      { id: source },
    );
    await house.step(juno);
    const { body: left } = await juno.ask<{ id: string; name: string }[]>(
      "GET",
      "/api/people/left?q=quenby",
    );
    expect(left.map(({ name }) => name).sort()).toEqual(["Hedda Quenby", "Otis Quenby"]);
    const record = (
      await juno.ask<{ memberships: { address: string }[]; facts: { where: string }[] }>(
        "GET",
        `/api/people/${hedda}/record`,
      )
    ).body;
    expect(record.memberships[0]?.address).toBe("hedda.quenby@oakmail.example");
    expect(record.facts.some(({ where }) => where.includes("row 2"))).toBe(true);
    const { body: intake } = await juno.ask<{ id: string }>("POST", "/api/intakes", {
      content: { name: "Helpers", how: "quietly", welcome: "", lists: [], times: null },
      people: [],
    });
    const row = crypto.randomUUID();
    await juno.ask("POST", `/api/intakes/${intake.id}/cells`, {
      changes: [
        ["person", "Hedda Quenby"],
        ["address", "Hedda.Quenby@oakmail.example"],
      ].map(([column, is]) => ({ row, column, was: "", is })),
    });
    const form = {
      parts: [],
      cohorts: [],
      questions: [],
      unknownChild: "ask",
      opensOn: "",
      closesOn: "",
      words: [
        {
          language: "en",
          title: "Late answers",
          intro: "",
          consent: "",
          labels: {},
          questions: [],
        },
      ],
    };
    const { body: made } = await juno.ask<{ id: string }>("POST", "/api/forms", {
      slug: "late",
      content: form,
      mode: "ask",
    });
    const answer = {
      given: "Otis",
      family: "Quenby",
      class: "",
      team: "",
      name: "Hedda Quenby",
      address: "hedda.quenby@oakmail.example",
      relationship: "",
      secondName: "",
      secondAddress: "",
      secondRelationship: "",
      howOften: "every message",
      questions: [],
      consent: 0,
    };
    await house.amigo.context.connection.pool.query(
      "insert into form_answer (form_id, language, answer, address, child) values ($1, 'en', $2, $3, 'otis quenby')",
      [made.id, answer, answer.address],
    );
    await house.amigo.context.connection.pool.query(
      "insert into posted_answer (source_id, fields, sha256) values ($1, $2, 'x')",
      [
        source,
        JSON.stringify([
          ["Name", "Hedda Quenby"],
          ["Email", "Hedda.Quenby@oakmail.example"],
        ]),
      ],
    );
    // Free words of others: a draft, a reason, a note on a request, a second import with the columns in another order.
    await juno.ask("PUT", `/api/drafts/${crypto.randomUUID()}`, {
      to: [{ kind: "address", id: "hedda.quenby@oakmail.example", name: "Hedda Quenby" }],
      subject: "About Otis Quenby (CW-9901)",
      html: "<p>Quenby, Otis has not paid.</p>",
    });
    await juno.ask("POST", `/api/lists/${lists[0]?.id ?? ""}/kept`, {
      address: "somebody.else@oakmail.example",
      side: "on",
      reason: "looks after Otis Quenby",
      lastDay: "",
    });
    await sql(
      "insert into request (list, title, rule, wanted, sentence, why, work, account_id, state, word) select 'x', 'x', 'writers', 'y', 'x', 'Hedda Quenby asked', '{\"about\": \"Otis Quenby\"}', id, 'refused', 'not for HEDDA QUENBY' from account limit 1",
    );
    const { body: date } = await juno.ask<{ id: string }>("POST", "/api/dates", {
      title: "Birthday of Otis Quenby",
      text: "Hedda Quenby brings the cake.",
      when: { allDay: true, from: "2099-05-01", until: "2099-05-01" },
      lists: [lists[0]?.id ?? ""],
    });
    await house.amigo.context.connection.pool.query(
      "insert into calendar_guest (date_id, address, token, told, told_sequence, word) values ($1, 'hedda.quenby@oakmail.example', 'x', 'withdrawn', 0, 'Otis comes too')",
      [date.id],
    );
    // What is still to be sent says what it has to; what was sent keeps its subject alone.
    await until(
      "the invitations to be sent",
      async () =>
        (
          await sql(
            "select 1 from calendar_date where not exists (select 1 from calendar_guest where date_id = calendar_date.id and told = 'invited') union all select 1 from delivery where state in ('queued', 'sending', 'deferred')",
          )
        ).rows.length,
      (left) => left === 0,
    );
    const before = await count();
    expect(
      (await juno.ask("POST", `/api/people/${hedda}/forget`, { name: "Somebody Else" })).status,
    ).toBe(422);
    for (const item of left)
      expect(
        (await juno.ask("POST", `/api/people/${item.id}/forget`, { name: item.name })).status,
      ).toBe(200);
    expect(await count()).toBe(before);
    for (const table of [
      "fact",
      "membership",
      "delivery",
      "journal",
      "cause",
      "reading_row",
      "reading_fault",
      "greeting",
      "post",
      "intake_row",
      "intake_change",
      "form_answer",
      "posted_answer",
    ]) {
      const { rows } = await sql(
        `select count(*)::int as count from ${table} as own where own::text ilike '%quenby%'`,
      );
      expect([table, (rows[0] as { count: number }).count]).toEqual([table, 0]);
    }
    // Nothing of them is left in any table, whatever is added to the database later.
    const { rows: tables } = await sql(
      "select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'",
    );
    for (const { name } of tables as { name: string }[]) {
      const { rows: found } = await sql(
        `select left(own::text, 300) as text from "${name}" as own where own::text ~* 'quenby|CW-990[01]|otis|hedda'`,
      );
      expect([name, found]).toEqual([name, []]);
    }
    const { rows: files } = await sql(
      `select 'reading' as kind from reading where encode(file, 'escape') ~* 'quenby'
       union all select 'message: ' || left(encode(raw, 'escape'), 200) from message where encode(raw, 'escape') ~* 'quenby'`,
    );
    expect(files).toEqual([]);
    expect(
      (await juno.ask<{ entries: { sentence: string }[] }>("GET", "/api/journal?action=forget"))
        .body.entries[0]?.sentence,
    ).toBe("Juno Abara removed the personal data of somebody who had left");
    await expect(sql("update journal set sentence = 'x'")).rejects.toThrow(/written once/);
  });

  test("the journal is filtered by who, what, word and day, and exported as it is filtered", async () => {
    const entries = async (query: string): Promise<string[]> =>
      (
        await juno.ask<{ entries: { sentence: string }[] }>("GET", `/api/journal?${query}`)
      ).body.entries.map(({ sentence }) => sentence);
    expect((await entries("action=post")).every((sentence) => sentence.includes("wrote"))).toBe(
      true,
    );
    expect(await entries("q=quiet one")).toHaveLength(1);
    expect(await entries("q=%25")).toEqual([]);
    expect(await entries("actor=pbellweather&action=how often")).toHaveLength(2);
    expect(await entries("to=2020-01-01")).toEqual([]);
    const { body } = await juno.ask<string>("GET", "/api/journal/export?action=how often");
    expect(body.split("\r\n").filter((line) => line !== "")).toHaveLength(3);
    expect((await pavel.ask("GET", "/api/journal/export")).status).toBe(401);
  });
});
