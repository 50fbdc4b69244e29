import { createHash } from "node:crypto";
import { connect } from "node:net";
import { authenticate } from "mailauth";
import { simpleParser } from "mailparser";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { MailHouse, Reach } from "@amigo/contract/mail";
import type { Retention } from "@amigo/contract/retention";
import type { ReadingPage } from "@amigo/contract/readings";
import type { SourceLine } from "@amigo/contract/sources";
import type { HeldLine, PostLine, PostPage } from "@amigo/contract/posts";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { openZone, proven as provenIn } from "../testing/openZone";
import { sendDigests } from "./digests";
import { eraseOld, returnForgotten } from "./keepClean";

const NAME = "ml-wire-parents-2627";
const DOMAIN = "lists.copperwheel.example";
const LIST = `${NAME}@${DOMAIN}`;
const TEO = "teo.bramwell@copperwheel.example";

let house: TestHouse;
let juno: Client;
let listId = "";
let members: string[] = [];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  listId =
    (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")).body[0]?.id ?? "";
  // Nothing here is about how many posts a day a list takes.
  await house.amigo.context.db.execute(
    sql`update list set rules = rules || '{"perDay": "500"}'::jsonb where id = ${listId}`,
  );
  members = (
    await juno.ask<{ members: { address: string }[] }>("GET", `/api/lists/${listId}/members`)
  ).body.members.map(({ address }) => address);
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
  house.sink.refuse = () => undefined;
});

const proven = <Value>(act: () => Promise<Value>): Promise<Value> => provenIn(house, act);

const post = async (subject: string, text = "Dear families."): Promise<string> =>
  (
    await juno.ask<{ id: string }>("POST", "/api/posts", {
      lists: [listId],
      subject,
      text,
      key: crypto.randomUUID(),
    })
  ).body.id;
const page = async (id: string): Promise<PostPage> =>
  (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body;
const copies = (subject: string) =>
  house.sink.mails.filter(({ raw }) => raw.includes(`Subject: ${subject}\r\n`));
const delivered = (subject: string, count: number) =>
  until(
    `${count} copies of ${subject}`,
    () => copies(subject),
    (mails) => mails.length >= count,
  );
const isMember = async (address: string): Promise<boolean> =>
  (
    await juno.ask<{ members: { address: string }[] }>("GET", `/api/lists/${listId}/members`)
  ).body.members.some((member) => member.address === address);
const reach = async (): Promise<Reach> => (await juno.ask<Reach>("GET", "/api/reach")).body;
const run = (query: ReturnType<typeof sql>) => house.amigo.context.db.execute(query);

describe("copies as receivers check them", () => {
  test("carry a signature that holds for each recipient's own header, and the fields of lists", async () => {
    await post("Signed", "Dear families,\n\n.\nwith  two spaces at an end  \n\n\n");
    const mails = await delivered("Signed", members.length);
    const checked = await Promise.all(
      mails.slice(0, 3).map(({ raw }) =>
        authenticate(Buffer.from(raw, "latin1"), {
          ip: "127.0.0.1",
          helo: "x",
          sender: LIST,
          mta: DOMAIN,
          resolver: openZone(house),
          disableBimi: true,
        }),
      ),
    );
    expect(
      checked.map(({ dkim }) =>
        dkim.results.map(({ status, signingDomain }) => [status.result, signingDomain]),
      ),
    ).toEqual(Array(3).fill([["pass", DOMAIN]]));
    expect(mails[0]?.raw.replace(/\r\n[ \t]+/g, "")).toMatch(
      /^DKIM-Signature:[^\r]*h=[^;]*list-unsubscribe:list-unsubscribe-post/m,
    );
    const changed = Buffer.from(
      (mails[0]?.raw ?? "").replace("Dear families", "Dear robbers"),
      "latin1",
    );
    expect(
      (
        await authenticate(changed, {
          ip: "127.0.0.1",
          helo: "x",
          sender: LIST,
          mta: DOMAIN,
          resolver: openZone(house),
          disableBimi: true,
        })
      ).dkim.results[0]?.status.result,
    ).not.toBe("pass");
    const raw = mails[0]?.raw ?? "";
    for (const field of [
      `List-Help: <mailto:${NAME}-request@${DOMAIN}>`,
      `List-Owner: <mailto:${NAME}+leads@${DOMAIN}>`,
      "Archived-At: <http://localhost",
    ])
      expect(raw).toContain(field);
  });

  test("for inside members are one and the same under one signature, and hold nobody's own link", async () => {
    const students =
      (await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire students")).body[0]?.id ?? "";
    const count = (await juno.ask<{ total: number }>("GET", `/api/lists/${students}/members`)).body
      .total;
    await juno.ask("POST", "/api/posts", {
      lists: [students],
      subject: "For all inside",
      text: "Dear students.",
      key: crypto.randomUUID(),
    });
    const mails = await delivered("For all inside", count);
    expect(mails).toHaveLength(count);
    expect(new Set(mails.map(({ raw }) => raw)).size).toBe(1);
    const checked = await authenticate(Buffer.from(mails[0]?.raw ?? "", "latin1"), {
      ip: "127.0.0.1",
      helo: "x",
      sender: LIST,
      mta: DOMAIN,
      resolver: openZone(house),
      disableBimi: true,
    });
    expect(checked.dkim.results.map(({ status }) => status.result)).toEqual(["pass"]);
    expect(mails[0]?.raw).not.toContain("/leave/");
    expect(mails[0]?.raw).not.toContain("One-Click");
    expect(
      new Set(
        (await run(sql`select token from delivery where list_id = ${students}`)).rows.map(
          ({ token }) => token,
        ),
      ).size,
    ).toBe(count);
  });

  test("pass a signature on in an ARC set that can be checked", async () => {
    const unsigned = `From: Juno Abara <${JUNO}>\r\nTo: ${LIST}\r\nSubject: Signed before\r\nDate: Mon, 23 Nov 2026 10:00:00 +0000\r\nMessage-ID: <arc-1@copperwheel.example>\r\n\r\nDear families.\r\n`;
    const { signNote } = await import("./prepareCopy");
    const signed = await signNote(
      Buffer.from(unsigned),
      "copperwheel.example",
      house.amigo.context.mailKeys.signers,
      new Date(),
    );
    await proven(() =>
      house.mail({ from: JUNO, to: LIST, raw: signed.toString("latin1"), returnPath: JUNO }),
    );
    const [mail] = await delivered("Signed before", members.length);
    expect(mail?.raw).toMatch(/^ARC-Seal: i=1;/m);
    const { arc } = await authenticate(Buffer.from(mail?.raw ?? "", "latin1"), {
      ip: "127.0.0.1",
      helo: "x",
      sender: LIST,
      mta: "mx.oakmail.example",
      resolver: openZone(house),
      disableBimi: true,
    });
    expect(arc === false ? "" : JSON.stringify(arc.status)).toContain('"result":"pass"');
  });

  test("carry a whole mail unharmed: parts, attachments and inline pictures octet for octet", async () => {
    const picture = Buffer.from(Array.from({ length: 5000 }, (_, at) => (at * 7919) % 256));
    const inner = [
      "--b",
      "Content-Type: multipart/related; boundary=r",
      "",
      "--r",
      "Content-Type: text/html; charset=iso-8859-1",
      "Content-Transfer-Encoding: quoted-printable",
      "",
      '<p>Gr=FC=DFe <img src=3D"cid:p1"></p>',
      "--r",
      "Content-Type: image/png",
      "Content-ID: <p1>",
      "Content-Transfer-Encoding: base64",
      "",
      picture.toString("base64").replace(/.{76}/g, "$&\r\n"),
      "--r--",
      "--b",
      "Content-Type: application/pdf; name=plan.pdf",
      "Content-Disposition: attachment; filename=plan.pdf",
      "Content-Transfer-Encoding: base64",
      "",
      picture.toString("base64").replace(/.{76}/g, "$&\r\n"),
      "--b--",
      "",
    ].join("\r\n");
    await house.mail({
      from: JUNO,
      to: LIST,
      as: JUNO,
      returnPath: JUNO,
      raw: `From: Juno Abara <${JUNO}>\r\nTo: ${LIST}\r\nSubject: With parts\r\nMessage-ID: <parts@copperwheel.example>\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n${inner}`,
    });
    const [mail] = await delivered("With parts", members.length);
    expect(mail?.raw.slice(mail.raw.indexOf("\r\n\r\n") + 4)).toBe(inner);
    const parsed = await simpleParser(Buffer.from(mail?.raw ?? "", "latin1"));
    expect(parsed.html).toContain("Grüße");
    expect(
      parsed.attachments.map(({ content }) => createHash("sha256").update(content).digest("hex")),
    ).toEqual(Array(2).fill(createHash("sha256").update(picture).digest("hex")));
  });
});

describe("what comes back", () => {
  const tokenOf = async (id: string, address: string): Promise<string> =>
    String(
      (await run(sql`select token from delivery where post_id = ${id} and address = ${address}`))
        .rows[0]?.token ?? "",
    );
  const comesBack = async (
    id: string,
    address: string,
    status: string,
    words: string,
    more: { subject?: string; returnPath?: string; headers?: string; action?: string } = {},
  ): Promise<void> => {
    const raw = [
      `From: mailer-daemon@mx.oakmail.example`,
      `Subject: ${more.subject ?? "Undelivered Mail Returned to Sender"}`,
      ...(more.headers === undefined ? [] : [more.headers]),
      "MIME-Version: 1.0",
      "Content-Type: multipart/report; report-type=delivery-status; boundary=q",
      "",
      "--q",
      "Content-Type: text/plain",
      "",
      "It could not be delivered.",
      "--q",
      "Content-Type: message/delivery-status",
      "",
      "Reporting-MTA: dns; mx.oakmail.example",
      "",
      `Final-Recipient: rfc822; ${address}`,
      `Action: ${more.action ?? (status.startsWith("4") ? "delayed" : "failed")}`,
      `Status: ${status}`,
      `Diagnostic-Code: smtp; ${words}`,
      "",
      "--q--",
      "",
    ].join("\r\n");
    await house.mail({
      from: "",
      to: `${NAME}+b.${await tokenOf(id, address)}@${DOMAIN}`,
      raw,
      returnPath: more.returnPath ?? "",
    });
  };

  test("for good stops an address; the coordinator sees it beside its row; writing heals it", async () => {
    const address = members[0] ?? "";
    const id = await post("Who is gone?");
    await delivered("Who is gone?", members.length);
    await until(
      "all told",
      () => page(id),
      ({ deliveries }) => deliveries.sent === members.length,
    );
    await comesBack(id, address, "5.1.1", "550 5.1.1 user unknown");
    const told = (await page(id)).recipients.find((recipient) => recipient.address === address);
    expect(told).toMatchObject({ state: "bounced", reply: "550 5.1.1 user unknown", retry: false });
    const [trouble] = (await reach()).troubles.filter((candidate) => candidate.address === address);
    expect(trouble).toMatchObject({ state: "stopped", sort: "no mailbox" });
    expect(trouble?.where).toMatch(/row \d+, column/);
    expect(trouble?.people.length).toBeGreaterThan(0);
    const [roster] = (await juno.ask<SourceLine[]>("GET", "/api/sources")).body;
    const sheet = (await juno.ask<ReadingPage>("GET", `/api/readings/${roster?.last?.id}`)).body;
    expect(
      sheet.faults
        .filter(({ fault }) => fault === "failing")
        .map(({ row, why }) => [
          trouble?.where.includes(`row ${row},`),
          why.startsWith("There is no such mailbox: 550 5.1.1 user unknown."),
        ]),
    ).toContainEqual([true, true]);
    const next = await post("Without them");
    await delivered("Without them", members.length - 1);
    expect((await page(next)).recipients.map((recipient) => recipient.address)).not.toContain(
      address,
    );
    await proven(() =>
      house.mail({
        from: address,
        to: LIST.replace("@", "+leads@"),
        subject: "Out of the office",
        headers: { "Auto-Submitted": "auto-replied" },
      }),
    );
    expect((await reach()).troubles.some((candidate) => candidate.address === address)).toBe(true);
    await proven(() =>
      house.mail({ from: address, to: LIST.replace("@", "+leads@"), subject: "I am still here" }),
    );
    expect((await reach()).troubles.filter((candidate) => candidate.address === address)).toEqual(
      [],
    );
    const again = await post("With them");
    await delivered("With them", members.length);
    expect((await page(again)).recipients.map((recipient) => recipient.address)).toContain(address);
  });

  test("for now, on as many days as the house has set, stops it as well; a coordinator's word heals it", async () => {
    const address = members[1] ?? "";
    const id = await post("Full for days");
    await until(
      "all told",
      () => page(id),
      ({ deliveries }) => deliveries.sent === members.length,
    );
    await run(
      sql`update delivery set sent_at = now() - interval '10 days' where address = ${address}`,
    );
    for (let day = 4; day >= 1; day--)
      await run(
        sql`insert into bounce (address, at, sort, form, words) values (${address}, now() - make_interval(days => ${day}), 'full', 'test', 'full')`,
      );
    expect((await reach()).troubles).toEqual([]);
    await comesBack(id, address, "5.2.2", "552 5.2.2 over quota");
    expect((await reach()).troubles).toMatchObject([{ address, state: "stopped", sort: "full" }]);
    expect((await juno.ask("POST", "/api/reach/heal", { address })).status).toBe(200);
    expect((await juno.ask("POST", "/api/reach/heal", { address })).status).toBe(409);
    expect((await reach()).troubles).toEqual([]);
  });

  test("from a robot, or about one mail only, takes nobody off", async () => {
    const address = members[2] ?? "";
    const id = await post("Robots");
    await until(
      "all told",
      () => page(id),
      ({ deliveries }) => deliveries.sent === members.length,
    );
    await comesBack(id, address, "5.7.1", "550 5.7.1 looks like spam");
    await house.mail({
      from: address,
      to: `${NAME}+b.${await tokenOf(id, address)}@${DOMAIN}`,
      subject: "Out of the office",
      text: "550 user unknown. Please unsubscribe me.",
      headers: { "Auto-Submitted": "auto-replied" },
      returnPath: address,
    });
    // A warning that mail is late is no failure; a mail system that has given up is one.
    await comesBack(id, members[1] ?? "", "4.4.1", "450 try later");
    await comesBack(id, members[3] ?? "", "4.4.1", "450 try later", { action: "failed" });
    const states = (await page(id)).recipients.map((one) => [one.address, one.state]);
    expect(states).toContainEqual([members[1], "sent"]);
    expect(states).toContainEqual([members[3], "bounced"]);
    const { troubles } = await reach();
    expect(troubles.map(({ address: eachAddress, state }) => [eachAddress, state])).toEqual([
      [members[3], "shaky"],
    ]);
    expect(await isMember(address)).toBe(true);
    await post("Well again");
    await delivered("Well again", members.length);
    await until("healed by arriving", reach, (item) => item.troubles.length === 0);
  });

  test("a refusal at once is sorted as well, and tried again by hand", async () => {
    const address = members[4] ?? "";
    house.sink.refuse = (to) =>
      to === address ? { code: 554, words: "5.7.1 not wanted here" } : undefined;
    const id = await post("Refused once");
    const told = await until(
      "the refusal",
      async () => (await page(id)).recipients.find((recipient) => recipient.address === address),
      (item) => item?.state === "bounced",
    );
    expect(told).toMatchObject({ retry: true });
    expect((await reach()).troubles).toEqual([]);
    house.sink.refuse = () => undefined;
    expect((await juno.ask("POST", `/api/posts/${id}/retry`, { address })).status).toBe(200);
    await until(
      "the retry",
      async () =>
        (await page(id)).recipients.find((recipient) => recipient.address === address)?.state,
      (state) => state === "sent",
    );
    expect((await juno.ask("POST", `/api/posts/${id}/retry`, { address })).status).toBe(409);
  });
});

test("what the relay says of us is held against no address, and is tried again", async () => {
  house.sink.refuseSender = () => ({ code: 550, words: "no" });
  const id = await post("Not from you");
  const told = await until(
    "the tries",
    () => page(id),
    ({ deliveries }) => deliveries.deferred === members.length,
  );
  expect(told.deliveries.bounced).toBe(0);
  expect((await reach()).troubles).toEqual([]);
  house.sink.refuseSender = () => undefined;
  await run(sql`update delivery set next_at = now() where state = 'deferred'`);
  await delivered("Not from you", members.length);
});

test("a rule that changes while copies wait holds for those that are left", async () => {
  await post("Before the change");
  const [before] = await delivered("Before the change", members.length);
  expect(before?.raw).toMatch(/^Reply-To: "Leads of/m);
  await run(
    sql`update list set rules = rules || '{"replies": "writer"}'::jsonb where id = ${listId}`,
  );
  const id = String(
    (await run(sql`select id from post where subject = 'Before the change'`)).rows[0]?.id,
  );
  // One copy goes once more, as one that was left would, until it goes by the new rule: a list is asked for again every few seconds.
  await until(
    "a copy by the new rule",
    async () => {
      await run(
        sql`update delivery set state = 'queued', next_at = now() where post_id = ${id} and address = ${members[0] ?? ""} and state = 'sent'`,
      );
      return copies("Before the change");
    },
    (mails) => mails.some(({ raw }) => raw.includes(`Reply-To: Juno Abara <${JUNO}>`)),
  );
  await until(
    "all told",
    () => page(id),
    ({ deliveries }) => deliveries.sent === members.length,
  );
  await run(
    sql`update list set rules = rules || '{"replies": "leads"}'::jsonb where id = ${listId}`,
  );
});

describe("the addresses of a list", () => {
  test("list-request answers what it is, whom to ask, how to leave, and names no member", async () => {
    await proven(() =>
      house.mail({
        from: "una@lettr.example",
        to: `${NAME}-request@${DOMAIN}`,
        subject: "help",
      }),
    );
    const told = await house.mailTo("una@lettr.example", "About Wire Walk, guardians");
    for (const words of [
      "is a list of Copperwheel Circus School",
      "Teo Bramwell",
      `${NAME}+leads@${DOMAIN}`,
      `${NAME}+leave@${DOMAIN}`,
    ])
      expect(told).toContain(words);
    expect(members.some((address) => told.includes(address))).toBe(false);
    house.sink.mails.length = 0;
    await house.mail({
      from: "robot@lettr.example",
      to: `${NAME}-request@${DOMAIN}`,
      headers: { "Auto-Submitted": "auto-generated" },
    });
    await expect(
      house.mail({ from: "una@lettr.example", to: `nothing-request@${DOMAIN}` }),
    ).rejects.toThrow(/no such list/);
    expect(house.sink.mails).toEqual([]);
  });

  test("list+leave asks back whoever writes, however it is proven, and an answer is the yes", async () => {
    const [one = "", two = "", three = ""] = members.slice(5, 8);
    await proven(() => house.mail({ from: one, to: `${NAME}+leave@${DOMAIN}` }));
    expect(await isMember(one)).toBe(true);
    const back =
      /Reply-To:\s+(\S+\+yes\.[0-9a-f]{40}@\S+)/i.exec(
        await house.mailTo(one, "asked to leave"),
      )?.[1] ?? "";
    await house.mail({ from: one, to: back, subject: "Re: Leave?" });
    expect(await isMember(one)).toBe(false);
    await house.mail({
      from: two,
      to: `${NAME}+leave@${DOMAIN}`,
      returnPath: "somebody@brightpost.example",
    });
    const asked = await house.mailTo(two, "asked to leave");
    expect(await isMember(two)).toBe(true);
    const answer = /Reply-To:\s+(\S+\+yes\.[0-9a-f]{40}@\S+)/i.exec(asked)?.[1] ?? "";
    await house.mail({
      from: two,
      to: answer,
      headers: { "Auto-Submitted": "auto-replied" },
      subject: "Out of the office",
    });
    expect(await isMember(two)).toBe(true);
    await house.mail({ from: two, to: answer, subject: "Re: Leave?" });
    expect(await isMember(two)).toBe(false);
    await house.mail({
      from: three,
      to: `${NAME}+leave@${DOMAIN}`,
      returnPath: "somebody@brightpost.example",
    });
    const link =
      /\/leave\/yes\/[0-9a-f]{40}/.exec(await house.mailTo(three, "asked to leave"))?.[0] ?? "";
    expect(await (await fetch(`${house.url}${link}`)).text()).toContain(
      "Leave Wire Walk, guardians?",
    );
    expect(await isMember(three)).toBe(true);
    expect((await fetch(`${house.url}${link}`, { method: "POST" })).status).toBe(200);
    expect(await isMember(three)).toBe(false);
    expect((await fetch(`${house.url}${link}`, { method: "POST" })).status).toBe(404);
    await house.read(juno, "autumn-roster.xlsx", {
      id: (await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id ?? "",
    });
    for (const address of [one, two, three]) expect(await isMember(address)).toBe(false);
    const kept = (
      await juno.ask<{ address: string; reason: string; side: string }[]>(
        "GET",
        `/api/lists/${listId}/kept`,
      )
    ).body;
    expect(
      kept
        .filter(({ reason }) => reason === "left by mail")
        .map(({ address, side }) => [address, side])
        .sort(),
    ).toEqual([one, two, three].map((address) => [address, "off"]).sort());
    members = members.filter((address) => ![one, two, three].includes(address));
  });

  test("leaving in a stranger's name tells nobody but that address, and not whether it is on the list", async () => {
    const leave = (from: string) =>
      house.mail({
        from,
        to: `${NAME}+leave@${DOMAIN}`,
        returnPath: "stranger@brightpost.example",
      });
    // Nothing proves this one to be its From line's, so nobody hears of it.
    await leave("somebody.else@fernpost.example");
    await proven(() =>
      house.mail({ from: "nobody@fernpost.example", to: `${NAME}+leave@${DOMAIN}` }),
    );
    expect(await house.mailTo("nobody@fernpost.example", "nothing to leave")).toContain(
      "gets no mail from",
    );
    expect(house.sink.mails.map(({ to }) => to)).toEqual(["nobody@fernpost.example"]);
  });

  test("postmaster and abuse reach the coordinators, a report with an empty return path too, and never twice round", async () => {
    await house.mail({
      from: "",
      to: `postmaster@${DOMAIN}`,
      subject: "A report",
      returnPath: "",
      raw: "From: x@oakmail.example\r\nSubject: A report\r\n\r\nx\r\n",
    });
    await house.mailTo(JUNO, "Subject: A report");
    const mail = house.sink.mails.find(({ raw }) => raw.includes("Subject: A report"))?.raw ?? "";
    const [header = ""] = mail.split("\r\n\r\n");
    expect(header).toContain(`postmaster@${DOMAIN}>`);
    expect(header).not.toContain("oakmail.example");
    expect(mail).toMatch(/^Content-Type: message\/rfc822/m);
    expect(mail).toContain("From: x@oakmail.example\r\nSubject: A report\r\n\r\nx\r\n");
    house.sink.mails.length = 0;
    await house.mail({
      from: "x@oakmail.example",
      to: `abuse@${DOMAIN}`,
      raw: mail,
      returnPath: "x@oakmail.example",
    });
    await house.mail({ from: "x@oakmail.example", to: `abuse@${DOMAIN}`, subject: "Another" });
    await house.mailTo(JUNO, "Subject: Another");
    expect(house.sink.mails.filter(({ raw }) => raw.includes("Subject: A report"))).toEqual([]);
    // A note keeps its subject and nothing else once it is sent, whatever was attached to it.
    await house.mail({
      from: "x@oakmail.example",
      to: `abuse@${DOMAIN}`,
      raw: "From: x@oakmail.example\r\nSubject: With NUL\r\n\r\nx\u0000y\r\n",
    });
    await house.mailTo(JUNO, "Subject: With NUL");
    const kept = await until(
      "the note to be written down as sent",
      async () =>
        (
          await run(
            sql`select encode(raw, 'escape') as raw from message where erased_at is not null and encode(raw, 'escape') like '%With NUL%'`,
          )
        ).rows,
      (rows) => rows.length === 1,
    );
    expect(kept[0]?.raw).toMatch(/^Subject: Mail to abuse@\S+ With NUL\r\n\r\n$/);
  });
});

describe("held mail", () => {
  const hold = async (subject: string): Promise<string> => {
    await house.mail({
      from: `Juno Abara <${JUNO}>`,
      to: LIST,
      subject,
      returnPath: "stranger@brightpost.example",
    });
    return house.mailTo(TEO, `Waits for you: ${subject}`);
  };
  const held = async (): Promise<HeldLine[]> =>
    (await juno.ask<HeldLine[]>("GET", "/api/held")).body;

  test("is decided on by a link in the note, once, and not by looking at it", async () => {
    const note = await hold("By a link");
    const link = `${/\/held\/[\w-]+/.exec(note)?.[0] ?? ""}?do=out`;
    const shown = await (await fetch(`${house.url}${link}`)).text();
    expect(shown).toContain("By a link");
    expect(shown).not.toMatch(/<script/i);
    expect((await held()).map(({ subject }) => subject)).toContain("By a link");
    const decide = (decision: string) =>
      fetch(`${house.url}${link}`, { method: "POST", body: new URLSearchParams({ decision }) });
    for (const nonsense of ["burn", "constructor", "__proto__", ""])
      expect((await decide(nonsense)).status).toBe(400);
    expect(await (await decide("out")).text()).toContain(`${members.length} addresses`);
    await delivered("By a link", members.length);
    expect((await decide("drop")).status).toBe(404);
  });

  test("on which nobody decides goes back with a word", async () => {
    // They were told of others within this hour, and would be told of this one later.
    await run(sql`delete from mailed_link where purpose = 'held mail'`);
    await hold("Forgotten");
    await run(sql`update post set at = now() - interval '8 days' where subject = 'Forgotten'`);
    expect(await returnForgotten(house.amigo.context)).toBe(1);
    expect(await house.mailTo("stranger@brightpost.example", "Returned: Forgotten")).toContain(
      "nobody decided on it within 7 days",
    );
    expect(await returnForgotten(house.amigo.context)).toBe(0);
  });
});

describe("the queue", () => {
  test("waits while it is paused, in all or a post alone; what has not left is cancelled", async () => {
    await juno.ask("POST", "/api/mail/queue", { paused: true });
    const id = await post("Paused");
    expect((await juno.ask<MailHouse>("GET", "/api/mail")).body.queue).toMatchObject({
      pausedBy: "Juno Abara",
      waiting: members.length,
    });
    await juno.ask("POST", `/api/posts/${id}/pause`, { paused: true });
    await juno.ask("POST", "/api/mail/queue", { paused: false });
    await post("Overtakes");
    await delivered("Overtakes", members.length);
    expect(copies("Paused")).toEqual([]);
    expect((await juno.ask<{ cancelled: number }>("POST", `/api/posts/${id}/cancel`)).body).toEqual(
      { cancelled: members.length },
    );
    await juno.ask("POST", `/api/posts/${id}/pause`, { paused: false });
    await post("After it");
    await delivered("After it", members.length);
    expect(copies("Paused")).toEqual([]);
    expect((await page(id)).deliveries).toMatchObject({ cancelled: members.length, sent: 0 });
    const ravi = await house.signIn(RAVI);
    expect((await ravi.ask("POST", `/api/posts/${id}/cancel`)).status).toBe(404);
    expect((await ravi.ask("POST", "/api/mail/queue", { paused: true })).status).toBe(403);
  });

  test("a sign-in link goes before an announcement", async () => {
    await juno.ask("POST", "/api/mail/queue", { paused: true });
    await post("Announcement");
    await house.client().ask("POST", "/api/member/link", { address: members[0] });
    await until(
      "the link",
      async () =>
        Number(
          (
            await run(
              sql`select count(*) as count from delivery where state = 'queued' and post_id is null`,
            )
          ).rows[0]?.count,
        ),
      (count) => count > 0,
    );
    const { rows } = await run(
      sql`select post_id from delivery where state = 'queued' order by priority, id limit 1`,
    );
    expect(rows[0]?.post_id).toBeNull();
    await juno.ask("POST", "/api/mail/queue", { paused: false });
    await delivered("Announcement", members.length);
  });
});

describe("a report that somebody has marked a copy as unwanted", () => {
  const complaint = (link: string): string =>
    [
      "From: complaints@oakmail.example",
      `To: abuse@${DOMAIN}`,
      "Subject: Complaint about a message",
      "MIME-Version: 1.0",
      'Content-Type: multipart/report; report-type=feedback-report; boundary="b"',
      "",
      "--b",
      "Content-Type: text/plain",
      "",
      "A user marked this as unwanted.",
      "--b",
      "Content-Type: message/feedback-report",
      "",
      "Feedback-Type: abuse",
      "User-Agent: oakmail/1",
      "Version: 1",
      "--b",
      "Content-Type: message/rfc822",
      "",
      link,
      "",
      "Dear families.",
      "--b--",
      "",
    ].join("\r\n");
  const report = (link: string) =>
    house.mail({ raw: complaint(link), from: "complaints@oakmail.example", to: `abuse@${DOMAIN}` });
  const stopped = async (): Promise<string[]> =>
    (await run(sql`select address from address_trouble where state = 'stopped'`)).rows.map(
      ({ address }) => String(address),
    );

  test("stops mail to whoever complains, known by their own link, and tells the coordinators", async () => {
    await run(sql`delete from address_trouble`);
    await post("Too much mail");
    await delivered("Too much mail", members.length);
    const [copy] = copies("Too much mail").filter(({ to }) => !to.endsWith("copperwheel.example"));
    const header = copy?.raw.slice(0, copy.raw.indexOf("\r\n\r\n")) ?? "";
    await report("List-Unsubscribe: <http://localhost/leave/made.0123456789012345678901>");
    expect(await stopped()).toEqual([]);
    await report(header);
    expect(await stopped()).toEqual([copy?.to]);
    expect(await house.mailTo(JUNO, "has stopped, because")).toContain(
      `Mail to ${copy?.to ?? ""} has stopped`,
    );
    await run(sql`delete from address_trouble`);
  });
});

describe("digests", () => {
  const choose = (address: string, howOften: string) =>
    run(
      sql`insert into receiving (list_id, address, how_often) values (${listId}, ${address}, ${howOften}) on conflict (list_id, address) do update set how_often = excluded.how_often`,
    );
  const digestsOf = (address: string) =>
    house.sink.mails.filter(({ to, raw }) => to === address && raw.includes("multipart/digest"));
  // Friday and the Monday after it, past the house's hour.
  const FRIDAY = new Date("2099-11-27T18:00:00Z");
  const MONDAY = new Date("2099-11-30T18:00:00Z");

  test("hold every post once, by day or by week, and lose nothing when somebody changes their mind", async () => {
    const [daily = "", weekly = "", changes = "", rests = ""] = members.slice(0, 4);
    for (const [address, how] of [
      [daily, "daily"],
      [weekly, "weekly"],
      [changes, "weekly"],
      [rests, "daily"],
    ] as const)
      await choose(address, how);
    await post("First of two", "Dear families, the first.");
    await post("Second of two", "Dear families, the second.");
    await delivered("Second of two", members.length - 4);
    expect(copies("First of two").map(({ to }) => to)).not.toContain(daily);
    await choose(changes, "every message");
    await choose(rests, "nothing");
    expect(await sendDigests(house.amigo.context, new Date("2099-11-30T10:00:00Z"))).toBe(0);
    const both = await Promise.all([
      sendDigests(house.amigo.context, MONDAY),
      sendDigests(house.amigo.context, MONDAY),
    ]);
    expect(both[0] + both[1]).toBe(2);
    await until(
      "the digests",
      () => digestsOf(daily).length + digestsOf(changes).length,
      (count) => count === 2,
    );
    const raw = digestsOf(daily)[0]?.raw ?? "";
    const parsed = await simpleParser(Buffer.from(raw, "latin1"));
    expect(parsed.subject).toBe("Wire Walk, guardians: 2 mails");
    expect(parsed.text).toMatch(
      /1\. First of two[^]*Dear families, the first\.[^]*2\. Second of two/,
    );
    expect(raw.match(/Content-Type: message\/rfc822/gi)).toHaveLength(2);
    // Answers go where the list's rules say, and never show the writer's address where they don't.
    expect(raw).not.toContain(JUNO);
    const head = raw.slice(0, raw.indexOf("\r\n\r\n")).replace(/\r\n[ \t]+/g, " ");
    expect(head).toMatch(new RegExp(`^List-Id: .*<${NAME}\\.${DOMAIN}>$`, "im"));
    expect(head).toMatch(/^Date: /m);
    expect(house.sink.mails.find((mail) => mail.raw === raw)?.from).toMatch(
      new RegExp(`^mail\\+b\\.[0-9a-f]{32}@${DOMAIN}$`),
    );
    const leave = /^List-Unsubscribe: <http:\/\/[^/]+(\/leave\/yes\/[\w-]+)>, <mailto:/m.exec(
      head,
    )?.[1];
    expect(head).toContain("List-Unsubscribe-Post: List-Unsubscribe=One-Click");
    expect(await (await fetch(`${house.url}${leave ?? ""}`)).text()).toContain("Leave this list");
    expect(members.filter((address) => address !== daily && raw.includes(address))).toEqual([]);
    expect(digestsOf(rests)).toEqual([]);
    expect(digestsOf(weekly)).toEqual([]);
    expect(await sendDigests(house.amigo.context, FRIDAY)).toBe(1);
    await until(
      "the weekly",
      () => digestsOf(weekly).length,
      (count) => count === 1,
    );
    expect(await sendDigests(house.amigo.context, FRIDAY)).toBe(0);
    await run(sql`delete from receiving where list_id = ${listId}`);
  });
});

describe("the archive", () => {
  test("knows threads by their references, by the subject as a last resort, and finds words", async () => {
    const first = await post("Shoes for the show", "Black shoes with brass buckles, please.");
    const id = String(
      (
        await run(
          sql`select message.message_id from post join message on message.id = post.message_id where post.id = ${first}`,
        )
      ).rows[0]?.message_id ?? "",
    );
    const answer = (subject: string, headers: Record<string, string>) =>
      house.mail({ from: JUNO, as: JUNO, to: LIST, subject, headers, text: "An answer." });
    await answer("Quite another subject", { "In-Reply-To": id });
    await answer("AW: Re: Shoes for the show", {});
    await answer("Shoes for the show", {});
    const { thread } = await page(first);
    expect(thread.map(({ subject }) => subject)).toEqual([
      "Shoes for the show",
      "Quite another subject",
      "AW: Re: Shoes for the show",
    ]);
    const find = async (q: string): Promise<string[]> =>
      (await juno.ask<PostLine[]>("GET", `/api/posts?q=${encodeURIComponent(q)}`)).body.map(
        ({ subject }) => subject,
      );
    expect(await find("brass buck")).toEqual(["Shoes for the show"]);
    expect(await find("buckles zeppelin")).toEqual([]);
    for (const hostile of ["'", "a & | !", "\\", "b:*", "<->"])
      expect(await find(hostile)).toBeInstanceOf(Array);
    await juno.ask("POST", `/api/posts/${first}/take-out`, { out: true });
    expect(await find("brass buckles")).toEqual([]);
    const mbox = await fetch(`${house.url}/api/lists/${listId}/archive.mbox`, {
      headers: { Cookie: juno.cookie },
    });
    expect(mbox.headers.get("content-type")).toBe("application/mbox");
    const text = await mbox.text();
    expect(text).toMatch(/^From juno\.abara@copperwheel\.example \w{3} \w{3} [ \d]\d /);
    expect(text).not.toContain("brass buckles");
    await juno.ask("POST", `/api/posts/${first}/take-out`, { out: false });
    expect(await find("brass buckles")).toEqual(["Shoes for the show"]);
    const ravi = await house.signIn(RAVI);
    expect((await ravi.ask("GET", `/api/lists/${listId}/archive.mbox`)).status).toBe(404);
    expect((await ravi.ask<PostLine[]>("GET", "/api/posts?q=brass")).body).toEqual([]);
  });

  test("forgets after the days that the house keeps, and what lists without one have got; the line stays", async () => {
    const id = await post("Too old", "Secret words.");
    await delivered("Too old", members.length);
    await until(
      "told",
      () => page(id),
      ({ deliveries }) => deliveries.sent === members.length,
    );
    await run(sql`update post set at = now() - interval '40 days' where id = ${id}`);
    expect(await eraseOld(house.amigo.context)).toBe(0);
    const { times, version } = (await juno.ask<Retention>("GET", "/api/retention")).body;
    expect(
      (await juno.ask("PUT", "/api/retention", { times: { ...times, posts: 30 }, version })).status,
    ).toBe(200);
    expect(await eraseOld(house.amigo.context)).toBe(1);
    const old = await page(id);
    expect(old).toMatchObject({ subject: "Too old", kept: false, text: "" });
    expect(old.deliveries.sent).toBe(members.length);
    expect(
      Number(
        (
          await run(
            sql`select length(raw) as length from message join post on post.message_id = message.id where post.id = ${id}`,
          )
        ).rows[0]?.length,
      ),
    ).toBe(0);
    expect((await juno.ask<PostLine[]>("GET", "/api/posts?q=secret words")).body).toEqual([]);
  });
});

describe("the port", () => {
  /** Speaks SMTP line by line and returns the last reply. */
  const speak = (lines: readonly string[]): Promise<string> =>
    new Promise((resolve, reject) => {
      const socket = connect(house.amigo.ports.incoming, "127.0.0.1");
      const left = [...lines];
      let last = "";
      socket.on("data", (data) => {
        last = data.toString();
        if (!/^\d{3} /m.test(last)) return;
        const next = left.shift();
        if (next === undefined) {
          socket.end();
          resolve(last);
        } else socket.write(next, "latin1");
      });
      socket.on("error", reject);
    });
  const HELLO = [
    "EHLO x.example\r\n",
    "MAIL FROM:<una@lettr.example>\r\n",
    `RCPT TO:<${LIST}>\r\n`,
    "DATA\r\n",
  ];

  test.each([
    ["a bare line feed", "Subject: x\r\n\r\nHello\nthere\r\n.\r\n"],
    ["a bare carriage return", "Subject: x\r\n\r\nHello\rthere\r\n.\r\n"],
    ["a smuggled end", "Subject: x\r\n\r\nHello\n.\r\nMAIL FROM:<a@b.example>\r\n.\r\n"],
  ])("refuses %s", async (_, data) =>
    expect(await speak([...HELLO, data])).toMatch(/^554 5\.6\.0/),
  );

  test("refuses for good what no parser can read", async () => {
    const nested = Array.from(
      { length: 20_000 },
      (_, at) => `--b${at}\r\nContent-Type: multipart/mixed; boundary=b${at + 1}\r\n\r\n`,
    ).join("");
    expect(
      await speak([
        ...HELLO,
        `Subject: x\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b0\r\n\r\n${nested}.\r\n`,
      ]),
    ).toMatch(/^554 5\.6\.0/);
  });

  test("refuses what goes round and round, and offers what it should", async () => {
    expect(
      await speak([
        ...HELLO,
        `${"Received: from x\r\n".repeat(60)}Subject: x\r\n\r\nHello\r\n.\r\n`,
      ]),
    ).toMatch(/^554 5\.4\.6/);
    const offered = await speak(["EHLO x.example\r\n"]);
    for (const extension of ["SIZE 26214400", "8BITMIME", "SMTPUTF8", "PIPELINING"])
      expect(offered).toContain(extension);
    expect(offered).not.toContain("AUTH");
  });
});
