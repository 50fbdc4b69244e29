import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Board } from "@amigo/contract/board";
import type { ListPage } from "@amigo/contract/lists";
import type { Member } from "@amigo/contract/members";
import type { PostPage } from "@amigo/contract/posts";
import type { CausePage } from "@amigo/contract/causes";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "./testing/testHouse";
import { mailboxesOf, TRUTH } from "./testing/truth";
import { roundOf, type WholeRound } from "./testing/roundOf";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

async function openRound(): Promise<WholeRound> {
  const body = await roundOf(juno);
  return body;
}

async function listOf(
  className: string,
  recipe: "Students" | "Guardians",
): Promise<{ id: string; count: number; joins: number; leaves: number; name: string }> {
  const { body: board } = await juno.ask<Board>("GET", "/api/board");
  const row = board.sites.flatMap(({ rows }) => rows).find(({ name }) => name === className);
  const cell = row?.cells[board.columns.findIndex(({ label }) => label === recipe)];
  if (cell?.list == null) throw new Error(`there is no list ${className}, ${recipe}`);
  return { ...cell, id: cell.list };
}

describe("from a roster sheet to the families' mailboxes", () => {
  let source = "";

  test("the first reading opens a round of 220 students and ten classes", async () => {
    const { status, body } = await house.read(juno, "autumn-roster.xlsx");
    expect(status).toBe(200);
    source = body.source;
    const round = await openRound();
    expect(round.causes.filter(({ kind }) => kind === "joined")).toHaveLength(220);
    expect(round.causes.filter(({ kind }) => kind === "cohort")).toHaveLength(10);
    expect(round.totals.lists).toBe(30);
    expect(round.guards).toEqual([]);
  });

  test("bringing in step makes the lists with the house's names and exactly the members of the truth", async () => {
    await house.step(juno);
    expect((await juno.ask("GET", "/api/rounds/open")).body).toBeNull();
    const trapeze = await listOf("Trapeze Two", "Guardians");
    expect(trapeze.name).toBe("ml-trapeze2-parents-2627");
    for (const className of new Set(TRUTH.students.flatMap(({ classes }) => classes))) {
      const { id } = await listOf(className, "Guardians");
      const { body } = await juno.ask<{ members: Member[] }>("GET", `/api/lists/${id}/members`);
      expect(body.members.map(({ address }) => address).sort(), className).toEqual(
        mailboxesOf(className),
      );
    }
  });

  test("every member says why it is on the list, down to the row", async () => {
    const { id } = await listOf("Trapeze Two", "Guardians");
    const { body } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${id}/members?q=lachterberg`,
    );
    expect(body.members[0]?.people).toEqual([
      {
        name: "Lumi Achterberg",
        because: "guardian of Mirela Achterberg",
        where: "autumn-roster, row 8, column I",
      },
    ]);
  });

  test("the same file once more changes nothing and is not kept twice", async () => {
    const { body } = await house.read(juno, "autumn-roster.xlsx", { id: source });
    expect(body).toMatchObject({ same: true, round: null, causes: 0 });
    const { body: found } = await juno.ask<{ readings: unknown[] }>(
      "GET",
      `/api/sources/${source}`,
    );
    expect(found.readings).toHaveLength(1);
  });

  test("the second week shows exactly its causes, with the cells before and after", async () => {
    await house.read(juno, "autumn-roster-week-2.xlsx", { id: source });
    const round = await openRound();
    const count = (kind: string): number =>
      round.causes.filter((cause) => cause.kind === kind).length;
    const { moved, joined, left, address, renamed } = TRUTH.week_two;
    expect([
      count("moved"),
      count("joined"),
      count("left"),
      count("address"),
      count("name"),
    ]).toEqual([moved, joined, left, address, renamed].map((list) => list.length));
    expect(round.causes).toHaveLength(14);

    const kettering = round.causes.find(({ title }) => title === "Hana Kettering");
    const { body: cause } = await juno.ask<CausePage>(
      "GET",
      `/api/rounds/${round.number}/causes/${kettering?.position}`,
    );
    expect(cause.sentence).toBe("Hana Kettering moved from Aerial Silks Start to Tumbling Seeds");
    const marks = cause.evidence.map(({ when, row, cells }) => ({
      when,
      row,
      marked: cells.filter(({ mark }) => mark !== "").map(({ label, text }) => `${label}: ${text}`),
    }));
    expect(marks).toEqual([
      { when: "before", row: 104, marked: ["Classes: Aerial Silks Start"] },
      { when: "now", row: 107, marked: ["Classes: Tumbling Seeds"] },
    ]);
    expect(
      cause.changes.map(({ list, kind, address: at }) => `${kind} ${list} ${at}`).sort(),
    ).toEqual([
      "joins bb-seeds-2627 cw-4848@copperwheel.example",
      "joins bb-seeds-parents-2627 celik.ida@lettr.example",
      "joins bb-seeds-parents-2627 marton.turkdogan@fernpost.example",
      "leaves ml-silks-2627 cw-4848@copperwheel.example",
      "leaves ml-silks-parents-2627 celik.ida@lettr.example",
      "leaves ml-silks-parents-2627 marton.turkdogan@fernpost.example",
    ]);
  });

  test("two who press at once carry it out once; what is held stands in the next round with its history", async () => {
    const before = await listOf("Tumbling Sprouts", "Guardians");
    const round = await openRound();
    const held = round.causes.find(({ title }) => title === "Ravi Underhill");
    await juno.ask("POST", "/api/rounds/open/decisions", {
      round: round.number,
      causes: [held?.key],
      decision: "held",
    });
    const again = await openRound();
    expect(again.totals).toMatchObject({ accepted: 13, held: 1 });
    const press = () =>
      juno.ask<{ detail?: string; next?: number }>("POST", "/api/rounds/open/step", {
        round: again.number,
        version: again.version,
        passed: {},
      });
    const answers = await Promise.all([press(), press(), press()]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
    expect(answers.find(({ status }) => status === 409)?.body.detail).toContain(
      "was already carried out by Juno Abara",
    );

    const next = await openRound();
    expect(next.causes.map(({ title, decision }) => [title, decision])).toEqual([
      ["Ravi Underhill", "held"],
    ]);
    const { body: cause } = await juno.ask<CausePage>("GET", `/api/rounds/${next.number}/causes/0`);
    expect(cause.history).toBe(`Held in round ${round.number} by Juno Abara.`);
    const after = await listOf("Tumbling Sprouts", "Guardians");
    expect([before.leaves, after.leaves]).toEqual([3, 2]);
    expect(after.count).toBe(before.count + before.joins - (before.leaves - after.leaves));
  });

  test("a round that moved on is not carried out by an old press", async () => {
    const round = await openRound();
    const { status, body } = await juno.ask<{ detail: string }>("POST", "/api/rounds/open/step", {
      round: round.number,
      version: round.version - 1,
      passed: {},
    });
    expect([status, body.detail]).toEqual([
      409,
      "This round has changed since you looked at it. Check it again, then press the button again.",
    ]);
  });

  test("a post reaches every mailbox of the list once, and no recipient sees another", async () => {
    house.sink.mails.length = 0;
    const { id } = await listOf("Juggling Two", "Guardians");
    const { body: members } = await juno.ask<{ members: Member[] }>(
      "GET",
      `/api/lists/${id}/members`,
    );
    const wanted = members.members.map(({ address }) => address).sort();
    const { status, body } = await juno.ask<{ id: string; addresses: number }>(
      "POST",
      "/api/posts",
      {
        lists: [id],
        subject: "Grüße\r\nBcc: x@oakmail.example",
        text: "No class on Friday.\n.\nSee you.",
        key: crypto.randomUUID(),
      },
    );
    expect([status, body.addresses]).toEqual([200, wanted.length]);
    await until(
      "the copies",
      () => house.sink.mails.length,
      (count) => count >= wanted.length,
    );
    expect(house.sink.mails.map(({ to }) => to).sort()).toEqual(wanted);
    for (const { to, from, raw } of house.sink.mails) {
      const [header = ""] = raw.split("\r\n\r\n");
      expect(header).toContain(
        'To: "Juggling Two, guardians" <bb-jugg2-parents-2627@lists.copperwheel.example>',
      );
      expect(header).toContain(
        'List-Id: "Juggling Two, guardians" <bb-jugg2-parents-2627.lists.copperwheel.example>',
      );
      expect(header).toMatch(/^List-Post: NO/m);
      expect(header).toMatch(
        /^List-Unsubscribe: <http:\/\/localhost:\d+\/leave\/[\w.-]+>, <mailto:bb-jugg2-parents-2627\+leave@lists\.copperwheel\.example>\r$/m,
      );
      expect(header).toMatch(/^Precedence: list\r?$/m);
      expect(header).not.toMatch(/^Bcc:/im);
      expect(from).toMatch(/^bb-jugg2-parents-2627\+b\.[0-9a-f]{32}@lists\.copperwheel\.example$/);
      for (const other of wanted) if (other !== to) expect(raw).not.toContain(other);
    }
    const page = await until(
      "the delivery rows",
      async () => (await juno.ask<PostPage>("GET", `/api/posts/${body.id}`)).body,
      (post) => post.deliveries.sent === wanted.length,
    );
    expect(page.text.trim()).toBe("No class on Friday.\n.\nSee you.");
  });

  test("one send pressed twice is one post", async () => {
    const { id } = await listOf("Acro Pairs", "Guardians");
    const key = crypto.randomUUID();
    const send = () =>
      juno.ask<{ id: string }>("POST", "/api/posts", {
        lists: [id],
        subject: "Once",
        text: "Once.",
        key,
      });
    const [first, second] = await Promise.all([send(), send()]);
    expect(second.body).toEqual(first.body);
    const { body: posts } = await juno.ask<{ subject: string }[]>("GET", `/api/posts?list=${id}`);
    expect(posts.filter(({ subject }) => subject === "Once")).toHaveLength(1);
  });

  test("a family on two lists gets one copy of a post to both", async () => {
    const lists = [
      await listOf("Juggling One", "Guardians"),
      await listOf("Juggling Two", "Guardians"),
    ];
    const { body: reckoning } = await juno.ask<{ addresses: number; twice: number }>(
      "POST",
      "/api/posts/reckon",
      { lists: lists.map(({ id }) => id) },
    );
    expect(reckoning.twice).toBeGreaterThan(0);
    expect(reckoning.addresses).toBe(
      lists.reduce((sum, { count }) => sum + count, 0) - reckoning.twice,
    );
    const { body } = await juno.ask<{ addresses: number }>("POST", "/api/posts", {
      lists: lists.map(({ id }) => id),
      subject: "Both",
      text: "Both.",
      key: crypto.randomUUID(),
    });
    expect(body.addresses).toBe(reckoning.addresses);
  });

  test("a lead writes from their own mail program, and the list page lets them", async () => {
    const ravi = await house.signIn(RAVI);
    const { id, name, count } = await listOf("Trapeze Two", "Guardians");
    const { body: page } = await ravi.ask<ListPage>("GET", `/api/lists/${id}`);
    expect(page.leads).toEqual(["Ravi Lindqvist"]);
    const copies = (): string[] =>
      house.sink.mails.filter(({ raw }) => raw.includes("Bring grips")).map(({ to }) => to);
    await house.mail({
      from: `Ravi Lindqvist <${RAVI}>`,
      to: `${name}@lists.copperwheel.example`,
      subject: "Bring grips",
      as: RAVI,
    });
    await until(
      "the copies",
      () => copies().length,
      (sent) => sent === count,
    );
    expect(new Set(copies()).size).toBe(count);
  });
});
