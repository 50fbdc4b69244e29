import { simpleParser } from "mailparser";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type {
  Draft,
  DraftContent,
  DraftReckoning,
  Target,
  TargetHit,
} from "@amigo/contract/drafts";
import type { PostPage } from "@amigo/contract/posts";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Answer,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { sendPlanned } from "./sendPlanned";

let house: TestHouse;
let juno: Client;
let wire: Target;
let silks: Target;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  await house.amigo.context.db.execute(sql`update house set undo_seconds = 1`);
  wire = await listOf("wire guardians");
  silks = await listOf("silks guardians");
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
});

type Sent = {
  post: string | null;
  addresses: number;
  outcome: string;
  leavesAt: string | null;
  detail?: string;
  field?: string;
};

async function listOf(q: string): Promise<Target> {
  const [found] = (await juno.ask<{ id: string; title: string }[]>("GET", `/api/lists?q=${q}`))
    .body;
  return { kind: "list", id: found?.id ?? "", name: found?.title ?? "" };
}
const person = async (q: string): Promise<TargetHit> => {
  const found = (
    await juno.ask<TargetHit[]>("GET", `/api/targets?q=${encodeURIComponent(q)}`)
  ).body.find(({ kind }) => kind === "person");
  if (found === undefined) throw new Error(`nobody is called ${q}`);
  return found;
};
const content = (part: Partial<DraftContent>): DraftContent => ({
  to: [],
  cc: [],
  bcc: [],
  leftOut: [],
  answers: null,
  subject: "Hello",
  html: "<p>Dear families.</p>",
  language: "",
  versions: [],
  as: "oneself",
  copyToMe: false,
  shown: false,
  ...part,
});
const keep = async (
  part: Partial<DraftContent>,
  client = juno,
  id: string = crypto.randomUUID(),
): Promise<string> => {
  const { status, body } = await client.ask<Draft>("PUT", `/api/drafts/${id}`, content(part));
  expect(status, JSON.stringify(body)).toBe(200);
  return id;
};
const send = (
  id: string,
  asked: string[] = ["many", "attachment", "shown", "outside"],
  client = juno,
): Promise<Answer<Sent>> =>
  client.ask<Sent>("POST", `/api/drafts/${id}/send`, { how: "now", asked });
const reckon = async (part: Partial<DraftContent>, files = 0): Promise<DraftReckoning> =>
  (await juno.ask<DraftReckoning>("POST", "/api/drafts/reckon", { content: content(part), files }))
    .body;
const members = async ({ id }: Target): Promise<string[]> =>
  (await juno.ask<{ address: string }[]>("GET", `/api/targets/${id}`)).body.map(
    ({ address }) => address,
  );
const arrived = (count: number) =>
  until(
    `${count} mails`,
    () => house.sink.mails,
    (mails) => mails.length >= count,
  );
const parsed = (raw: string) => simpleParser(Buffer.from(raw, "latin1"));

describe("a draft", () => {
  test("is kept as it is written, is its writer's alone, and is gone once it was sent", async () => {
    const id = await keep({ to: [wire], subject: "First" });
    await keep({ to: [wire], subject: "Second" }, juno, id);
    const ravi = await house.signIn(RAVI);
    expect(
      (await juno.ask<Draft[]>("GET", "/api/drafts")).body.map((item) => item.content.subject),
    ).toEqual(["Second"]);
    expect((await ravi.ask("GET", `/api/drafts/${id}`)).status).toBe(404);
    expect((await ravi.ask("PUT", `/api/drafts/${id}`, content({}))).status).toBe(409);
    expect(
      (await ravi.ask("POST", `/api/drafts/${id}/send`, { how: "now", asked: [] })).status,
    ).toBe(404);
    const [first, second] = await Promise.all([send(id), send(id)]);
    expect(first.body.post).toBe(second.body.post);
    await arrived((await members(wire)).length);
    await until(
      "told",
      async () => (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body.deliveries,
      ({ waiting }) => waiting === 0,
    );
    expect(house.sink.mails).toHaveLength((await members(wire)).length);
    expect((await juno.ask<Draft[]>("GET", "/api/drafts")).body).toEqual([]);
    expect((await juno.ask("PUT", `/api/drafts/${id}`, content({}))).status).toBe(409);
    expect((await juno.ask("POST", `/api/posts/${id}/take-back`)).status).toBe(409);
  });

  test("can be taken back before it leaves, and is a draft again", async () => {
    await house.amigo.context.db.execute(sql`update house set undo_seconds = 60`);
    const id = await keep({ to: [wire], subject: "Too soon" });
    const { body } = await send(id);
    expect(body).toMatchObject({ outcome: "goes out", addresses: (await members(wire)).length });
    expect((await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body.leavesAt).not.toBeNull();
    expect((await juno.ask("POST", `/api/posts/${id}/take-back`)).body).toEqual({ draft: id });
    expect((await juno.ask("GET", `/api/posts/${id}`)).status).toBe(404);
    await house.amigo.context.db.execute(sql`update house set undo_seconds = 0`);
    expect((await send(id)).status).toBe(200);
    await arrived((await members(wire)).length);
  });

  test("that waits for its time goes to who is on the lists then; one that can't go is a draft again, with the reason", async () => {
    const at = new Date(Date.now() + 3_600_000).toISOString();
    const [good, bad] = [
      await keep({ to: [wire], subject: "At four" }),
      await keep({
        to: [{ kind: "person", id: "s-nobody", name: "Nobody" }],
        subject: "To nobody",
      }),
    ];
    expect(
      (await juno.ask<Sent>("POST", `/api/drafts/${good}/send`, { how: "later", at, asked: [] }))
        .body,
    ).toMatchObject({ outcome: "waits" });
    expect(
      (await juno.ask("POST", `/api/drafts/${bad}/send`, { how: "later", at, asked: [] })).status,
    ).toBe(422);
    expect(
      (
        await juno.ask("POST", `/api/drafts/${good}/send`, {
          how: "later",
          at: "2020-01-01T10:00:00Z",
          asked: [],
        })
      ).status,
    ).toBe(422);
    await house.amigo.context.db.execute(sql`update draft set send_at = ${at} where id = ${bad}`);
    expect(await sendPlanned(house.amigo.context, new Date())).toBe(0);
    expect(await sendPlanned(house.amigo.context, new Date(Date.now() + 7_200_000))).toBe(1);
    expect(await sendPlanned(house.amigo.context, new Date(Date.now() + 7_200_000))).toBe(0);
    await arrived((await members(wire)).length);
    expect((await juno.ask<Draft>("GET", `/api/drafts/${bad}`)).body).toMatchObject({
      sendAt: null,
      fault: expect.stringContaining("no longer here"),
    });
    expect(await house.mailTo(JUNO, "Not sent: To nobody")).toContain("It is a draft again");
  });
});

describe("whom it goes to", () => {
  test("is told truly: families, who is on two lists, who is left out, who gets it otherwise", async () => {
    const [item, others] = [await members(wire), await members(silks)];
    const both = await reckon({ to: [wire], cc: [silks] });
    expect(both).toMatchObject({
      addresses: new Set([...item, ...others]).size,
      twice: item.filter((address) => others.includes(address)).length,
      refused: [],
    });
    expect((await reckon({ to: [wire], leftOut: item.slice(0, 3) })).addresses).toBe(
      item.length - 3,
    );
    await house.amigo.context.db.execute(
      sql`insert into address_trouble (address, state, sort, words) values (${item[0] ?? ""}, 'stopped', 'no mailbox', 'gone')`,
    );
    await house.amigo.context.db.execute(
      sql`insert into receiving (list_id, address, how_often) values (${wire.id}, ${item[1] ?? ""}, 'daily'), (${wire.id}, ${item[2] ?? ""}, 'nothing')`,
    );
    expect(await reckon({ to: [wire] })).toMatchObject({
      addresses: item.length,
      stopped: 1,
      digests: 1,
      resting: 1,
    });
    const id = await keep({ to: [wire], subject: "Otherwise" });
    await send(id);
    await until(
      "told",
      async () => (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body.deliveries,
      ({ sent, digests }) => sent === item.length - 3 && digests === 1,
    );
    await house.amigo.context.db.execute(sql`delete from address_trouble`);
    await house.amigo.context.db.execute(sql`delete from receiving`);
  });

  test("holds people, addresses and lists, each once, and nobody sees the others unless it is said so", async () => {
    const [chloe, oona] = [await person("chloe drummond"), await person("oona penhaligon")];
    const id = await keep({
      to: [wire, chloe],
      cc: [oona],
      bcc: [
        { kind: "address", id: "printer@brightpost.example", name: "printer@brightpost.example" },
      ],
      subject: "Mixed",
      copyToMe: true,
    });
    await send(id);
    await until(
      "told",
      async () => (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body.deliveries,
      ({ waiting, sent }) => waiting === 0 && sent > 0,
    );
    const printer = house.sink.mails.filter(({ to }) => to === "printer@brightpost.example");
    expect(printer).toHaveLength(1);
    expect(printer[0]?.raw).not.toMatch(/cdrummond|penhaligon|printer@brightpost/);
    expect(house.sink.mails.filter(({ to }) => to === "cdrummond@fernpost.example")).toHaveLength(
      1,
    );
    expect(house.sink.mails.some(({ to }) => to === JUNO)).toBe(true);
    house.sink.mails.length = 0;
    const shown = await keep({
      to: [chloe],
      cc: [
        { kind: "address", id: "printer@brightpost.example", name: "printer@brightpost.example" },
      ],
      bcc: [oona],
      subject: "Seen",
      shown: true,
    });
    expect((await send(shown, [])).body).toMatchObject({
      detail: expect.stringContaining("sees the addresses of the others"),
    });
    await send(shown);
    const [mail] = await arrived(2);
    expect(mail?.raw).toMatch(/^To: .*cdrummond@fernpost\.example/m);
    expect(mail?.raw).toMatch(/^Cc: printer@brightpost\.example/m);
    expect(house.sink.mails.some(({ raw }) => /openhaligon/.test(raw))).toBe(false);
    const refused = await send(await keep({ to: [wire, chloe], shown: true }));
    expect([refused.status, refused.body.detail]).toEqual([
      422,
      "The members of Wire Walk, guardians can't see each other, by its rules, so the addresses can't be shown.",
    ]);
  });

  test("is completed by name, short name, number or address, and by nothing that the writer may not see", async () => {
    const hits = async (q: string, client = juno): Promise<string[]> =>
      (await client.ask<TargetHit[]>("GET", `/api/targets?q=${encodeURIComponent(q)}`)).body.map(
        ({ kind, name, many }) => `${kind}${many ? "*" : ""} ${name}`,
      );
    expect(await hits("wire gua")).toContain("list* Wire Walk, guardians");
    expect(await hits("cdrummond")).toContain("person Chloé Drummond");
    expect(await hits("new.person@brightpost.example")).toEqual([
      "address new.person@brightpost.example",
    ]);
    expect(await hits("%")).toEqual([]);
    const ravi = await house.signIn(RAVI);
    expect(await hits("wire gua", ravi)).toEqual([]);
    expect(
      (await ravi.ask("POST", `/api/drafts/reckon`, { content: content({ to: [wire] }), files: 0 }))
        .status,
    ).toBe(404);
    const typo = await reckon({ to: [{ kind: "address", id: "a@gmial", name: "a" }] });
    expect(typo.refused[0]).toMatch(/is not an address/);
  });
});

describe("what it says", () => {
  test("is filled in for each recipient; what is empty says what stands beside it; nothing that a name holds becomes HTML", async () => {
    const chloe = await person("chloe drummond");
    const id = await keep({
      to: [chloe],
      bcc: [{ kind: "address", id: "printer@brightpost.example", name: "x" }],
      subject: "For {first name|you}",
      html: "<p>Dear {first name|friends}, {children} and <b>{nothing}</b></p>",
    });
    expect(
      (
        await juno.ask<DraftReckoning>("POST", "/api/drafts/reckon", {
          content: content({ to: [chloe], html: "<p>{nothing}</p>" }),
          files: 0,
        })
      ).body.asks,
    ).toEqual([
      { id: "fields", sentence: "{nothing} would stay as it is, because there is no such field." },
    ]);
    await send(id, ["fields"]);
    const mails = await arrived(2);
    const of = async (to: string) => parsed(mails.find((mail) => mail.to === to)?.raw ?? "");
    const hers = await of("cdrummond@fernpost.example");
    expect([hers.subject, hers.text?.startsWith("Dear Chloé, ")]).toEqual(["For Chloé", true]);
    expect((await of("printer@brightpost.example")).subject).toBe("For you");
    const preview = (
      await juno.ask<{ text: string; subject: string }>(
        "POST",
        `/api/drafts/${await keep({ to: [chloe], subject: "{first name}", html: "<p>{class}</p>" })}/preview`,
        { address: "cdrummond@fernpost.example" },
      )
    ).body;
    expect(preview.subject).toBe("Chloé");
    expect(preview.text.trim()).not.toBe("");
  });

  test("has a plain part, files and pictures, and nothing hostile", async () => {
    const chloe = await person("chloe drummond");
    const id = await keep({ to: [chloe], subject: "Files\r\nBcc: x@y.example" });
    const add = async (
      name: string,
      type: string,
      inline: string,
    ): Promise<Answer<{ id: string; cid: string }>> => {
      const form = new FormData();
      form.set("file", new File([new Uint8Array([1, 2, 3, 0, 255])], name, { type }));
      form.set("inline", inline);
      return juno.ask("POST", `/api/drafts/${id}/files`, form);
    };
    const picture = await add('a"b.png', "image/png", "yes");
    expect((await add("x.svg", "image/svg+xml", "yes")).status).toBe(422);
    expect((await add("plan.pdf", "application/pdf", "no")).status).toBe(200);
    const shown = await fetch(`${house.url}/api/drafts/${id}/files/${picture.body.id}`, {
      headers: { Cookie: juno.cookie },
    });
    expect([shown.status, shown.headers.get("content-security-policy")]).toEqual([
      200,
      "default-src 'none'; frame-ancestors 'self'; sandbox",
    ]);
    expect(
      (
        await fetch(`${house.url}/api/drafts/${id}/files/${picture.body.id}`, {
          headers: { Cookie: (await house.signIn(RAVI)).cookie },
        })
      ).status,
    ).toBe(404);
    await keep(
      {
        to: [chloe],
        subject: "Files\r\nBcc: x@y.example",
        html: `<p onclick="x()">Look <a href="javascript:x()">here</a></p><script>x()</script><img src="/api/drafts/${id}/files/${picture.body.id}"><img src="https://tracker.example/x.gif">`,
      },
      juno,
      id,
    );
    await send(id);
    const [mail] = await arrived(1);
    const read = await parsed(mail?.raw ?? "");
    expect(read.attachments.map(({ filename, related }) => [filename, related === true])).toEqual([
      ["a_b.png", true],
      ["plan.pdf", false],
    ]);
    expect(
      read.attachments.every(({ content: octets }) =>
        octets.equals(Buffer.from([1, 2, 3, 0, 255])),
      ),
    ).toBe(true);
    expect(mail?.raw).not.toMatch(/onclick|javascript|<script|tracker\.example|^Bcc:/im);
    expect(read.text).toContain("Look here");
    expect(mail?.raw).toContain("multipart/alternative");
  });

  test("comes from the list where a lead says so, and only then; a test goes to oneself", async () => {
    const id = await keep({ to: [wire], subject: "As the list", as: "list" });
    await send(id);
    const [mail] = await arrived(1);
    expect(mail?.raw).toMatch(/^From: "Wire Walk, guardians" <ml-wire-parents-2627@/m);
    expect(mail?.raw).toMatch(
      /^Reply-To: "Leads of Wire Walk, guardians" <ml-wire-parents-2627\+leads@/m,
    );
    await arrived((await members(wire)).length);
    house.sink.mails.length = 0;
    await juno.ask(
      "POST",
      `/api/drafts/${await keep({ to: [wire], subject: "Only for me" })}/send`,
      { how: "test", asked: [] },
    );
    await house.mailTo(JUNO, "Subject: Test: Only for me");
    expect(house.sink.mails.map(({ to }) => to)).toEqual([JUNO]);
  });

  test("is asked about before harm, and goes once it was answered", async () => {
    await house.amigo.context.db.execute(sql`update house set many_addresses = 3`);
    const asks = async (part: Partial<DraftContent>, files = 0): Promise<string[]> =>
      (await reckon(part, files)).asks.map(({ id }) => id);
    expect(await asks({ to: [wire], html: "<p>The plan is attached.</p>" })).toEqual([
      "attachment",
    ]);
    expect(await asks({ to: [wire], html: "<p>The plan is attached.</p>" }, 1)).toEqual([]);
    expect(await asks({ to: [wire], html: "<blockquote>x</blockquote><p>Thanks.</p>" })).toEqual(
      [],
    );
    await house.amigo.context.db.execute(sql`update house set many_addresses = 100`);
    const id = await keep({ to: [wire], html: "<p>See the attachment.</p>" });
    const refused = await send(id, []);
    expect([refused.status, refused.body.field, refused.body.detail]).toEqual([
      409,
      "attachment",
      "You mention an attachment, but nothing is attached.",
    ]);
    expect((await send(id, ["attachment"])).status).toBe(200);
  });
});

describe("templates", () => {
  test("are one's own, or a coordinator's for everybody", async () => {
    const ravi = await house.signIn(RAVI);
    const make = (client: Client, name: string, shared: boolean) =>
      client.ask<{ id: string }>("POST", "/api/templates", {
        name,
        subject: "x",
        html: "<p>x</p><script>y</script>",
        shared,
      });
    expect((await make(ravi, "Mine", true)).status).toBe(403);
    await make(ravi, "Mine", false);
    const { body } = await make(juno, "For all", true);
    const names = async (client: Client): Promise<string[]> =>
      (await client.ask<{ name: string; html: string }[]>("GET", "/api/templates")).body.map(
        ({ name, html }) => `${name} ${html}`,
      );
    expect(await names(ravi)).toEqual(["For all <p>x</p>", "Mine <p>x</p>"]);
    expect(await names(juno)).toEqual(["For all <p>x</p>"]);
    expect((await ravi.ask("DELETE", `/api/templates/${body.id}`)).status).toBe(404);
    expect((await juno.ask("DELETE", `/api/templates/${body.id}`)).status).toBe(200);
  });
});

describe("an answer", () => {
  const threadOf = (raw: string) =>
    parsed(raw).then(({ inReplyTo, references }) => ({
      inReplyTo,
      references: [references ?? []].flat(),
    }));

  test("stands in the thread of what it answers, and asks before it goes to everybody", async () => {
    const first = (
      await juno.ask<{ id: string }>("POST", "/api/posts", {
        lists: [wire.id],
        subject: "Rehearsal",
        text: "On Friday.",
        key: crypto.randomUUID(),
      })
    ).body.id;
    await arrived((await members(wire)).length);
    const { rows } = await house.amigo.context.db.execute<{ message_id: string }>(
      sql`select message.message_id from message join post on post.message_id = message.id where post.id = ${first}`,
    );
    house.sink.mails.length = 0;
    const toAll = { to: [wire], subject: "Re: Rehearsal", answers: first };
    expect((await reckon(toAll)).asks.map(({ id, sentence }) => [id, sentence])).toContainEqual([
      "answer to all",
      expect.stringContaining(`everybody on ${wire.name}`),
    ]);
    const refused = await send(await keep(toAll));
    expect([refused.status, refused.body.field]).toEqual([409, "answer to all"]);
    const alone = await keep({
      to: [{ kind: "address", id: "halim@oakmail.example", name: "Halim" }],
      subject: "Re: Rehearsal",
      answers: first,
    });
    expect(
      (
        await reckon({
          to: [{ kind: "address", id: "halim@oakmail.example", name: "Halim" }],
          answers: first,
        })
      ).asks,
    ).toEqual([]);
    const { body } = await send(alone);
    const [mail] = await arrived(1);
    expect(await threadOf(mail?.raw ?? "")).toEqual({
      inReplyTo: rows[0]?.message_id,
      references: [rows[0]?.message_id],
    });
    house.sink.mails.length = 0;
    const { body: all } = await send(
      await keep({ to: [wire], subject: "Re: Rehearsal", answers: body.post }),
      ["answer to all", "many"],
    );
    const [again] = await arrived(1);
    expect((await threadOf(again?.raw ?? "")).references).toEqual([
      rows[0]?.message_id,
      expect.any(String),
    ]);
    // The list's thread has what went to the list; what went to one alone is none of its.
    expect(
      (await juno.ask<PostPage>("GET", `/api/posts/${all.post}`)).body.thread.map(({ id }) => id),
    ).toEqual([first, all.post]);
  });

  test("to a post that its writer may not see tells none of it", async () => {
    const ravi = await house.signIn(RAVI);
    const hidden = (
      await juno.ask<{ id: string }>("POST", "/api/posts", {
        lists: [wire.id],
        subject: "Not for Ravi",
        text: "x",
        key: crypto.randomUUID(),
      })
    ).body.id;
    await arrived((await members(wire)).length);
    house.sink.mails.length = 0;
    await send(
      await keep(
        { to: [{ kind: "address", id: "halim@oakmail.example", name: "Halim" }], answers: hidden },
        ravi,
      ),
      ["outside"],
      ravi,
    );
    expect((await threadOf((await arrived(1))[0]?.raw ?? "")).inReplyTo).toBeUndefined();
  });
});
