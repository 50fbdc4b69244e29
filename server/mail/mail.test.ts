import { connect } from "node:net";
import { and, eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { HeldLine, PostLine, PostPage } from "@amigo/contract/posts";
import { sendNote } from "../posting/sendNote";
import {
  JUNO,
  RAVI,
  startTestHouse,
  until,
  type Client,
  type TestHouse,
} from "../testing/testHouse";
import { proven } from "../testing/openZone";
import { mailedLink } from "../db/schema/members";
import { post } from "../db/schema/posts";
import { delivery } from "../db/schema/deliveries";

const LIST = "ml-wire-parents-2627@lists.copperwheel.example";
const STRANGER = "stranger@brightpost.example";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
  house.sink.refuse = () => undefined;
});

async function posts(): Promise<PostLine[]> {
  return (await juno.ask<PostLine[]>("GET", "/api/posts")).body;
}

const note = () =>
  until(
    "the note",
    () => house.sink.mails,
    (mails) => mails.some(({ raw }) => raw.includes("Auto-Submitted")),
  );

describe("mail that comes in", () => {
  test("of a stranger is returned with the reason and reaches nobody", async () => {
    await proven(house, () =>
      house.mail({ from: `A Stranger <${STRANGER}>`, to: LIST, subject: "Buy my tent" }),
    );
    const mails = await note();
    expect(mails.map(({ to, from }) => ({ to, from }))).toEqual([{ to: STRANGER, from: "" }]);
    const [{ raw } = { raw: "" }] = mails;
    expect(raw).toContain("Subject: Returned: Buy my tent");
    expect(raw).toContain("Auto-Submitted: auto-replied");
    expect(raw.replace(/=\r\n/g, "")).toContain(
      `${STRANGER} is not a lead, helper or member of this list.`,
    );
    const [line] = await posts();
    expect(line).toMatchObject({
      subject: "Buy my tent",
      outcome: "returned",
      deliveries: { sent: 0, waiting: 0 },
    });
  });

  test("that only claims to be a coordinator's is held, and goes out once they have said by a mailed link that it is theirs", async () => {
    await house.mail({
      from: `Juno Abara <${JUNO}>`,
      to: LIST,
      subject: "Forged?",
      returnPath: STRANGER,
    });
    expect((await posts())[0]).toMatchObject({
      subject: "Forged?",
      outcome: "held",
      deliveries: { sent: 0, waiting: 0 },
    });
    const asked = await house.mailTo(JUNO, "Did you write this?");
    expect(house.sink.mails.some(({ to }) => to === STRANGER)).toBe(false);
    const link = /\/mine\/[\w-]+/.exec(asked)?.[0] ?? "";
    expect(await (await fetch(`${house.url}${link}`)).text()).toContain("Forged?");
    expect((await posts())[0]?.outcome).toBe("held");
    expect(await (await fetch(`${house.url}${link}`, { method: "POST" })).text()).toContain(
      "on its way",
    );
    expect((await posts())[0]).toMatchObject({ outcome: "goes out" });
    expect((await fetch(`${house.url}${link}`, { method: "POST" })).status).toBe(404);
  });

  test("asks its claimed sender however many other notes they got, and three times an hour at most", async () => {
    const { db } = house.amigo.context;
    await db.delete(mailedLink).where(eq(mailedLink.purpose, "own mail"));
    for (let note = 0; note < 4; note++)
      await db.transaction((tx) =>
        sendNote(
          tx,
          { name: "Juno Abara", address: JUNO },
          { subject: `Something else ${note}`, text: "Nothing to do." },
        ),
      );
    for (let mail = 1; mail <= 5; mail++)
      await house.mail({
        from: `Juno Abara <${JUNO}>`,
        to: LIST,
        subject: `In her name ${mail}`,
        returnPath: STRANGER,
      });
    expect((await posts()).slice(0, 5).map(({ outcome }) => outcome)).toEqual(
      Array.from({ length: 5 }, () => "held"),
    );
    await house.mailTo(JUNO, "In her name 3");
    const asked = await db
      .select()
      .from(mailedLink)
      .where(and(eq(mailedLink.purpose, "own mail"), eq(mailedLink.address, JUNO)));
    expect(asked).toHaveLength(3);
  });

  test("in another's name tells whoever sent it nothing of whose name it is", async () => {
    const asks = (subject: string) =>
      house.mail({ from: "hernandez.ana@lettr.example", to: LIST, subject, returnPath: STRANGER });
    // Whoever isn't known to own the address in the envelope is told at the door, and no mail goes to it.
    await expect(asks("And she?")).rejects.toThrow(
      "550 5.7.1 Leads, helpers and coordinators may write to this list. Other mail is returned with a reason.",
    );
    await proven(house, () => asks("Who is she?"), { "lettr.example": "v=spf1 ?all" });
    const told = (await house.mailTo(STRANGER, "Returned: Who is she?")).replace(/=\r\n/g, "");
    expect(told).toContain("Leads, helpers and coordinators may write to this list.");
    expect(told).not.toMatch(/Hern|member of this list|hernandez/i);
    expect(house.sink.mails.some(({ raw }) => raw.includes("And she?"))).toBe(false);
  });

  test("that an own relay vouches for goes out; a relay of another domain does not count", async () => {
    const zone = async (domain: string, type: string): Promise<string[][]> => {
      if (type === "TXT" && (domain === "copperwheel.example" || domain === "lettr.example"))
        return [["v=spf1 ip4:127.0.0.0/8 ip6:::1 -all"]];
      throw Object.assign(new Error("no such record"), { code: "ENOTFOUND" });
    };
    const before = house.amigo.context.resolver;
    house.amigo.context.resolver = zone;
    try {
      await house.mail({ from: `Juno Abara <${JUNO}>`, to: LIST, subject: "Vouched for" });
      expect((await posts())[0]).toMatchObject({ subject: "Vouched for", outcome: "goes out" });
      await house.mail({
        from: `Juno Abara <${JUNO}>`,
        to: LIST,
        subject: "By another's relay",
        returnPath: "una@lettr.example",
      });
      expect((await posts())[0]).toMatchObject({ subject: "By another's relay", outcome: "held" });
    } finally {
      house.amigo.context.resolver = before;
    }
  });

  test("is decided on by who runs the list, once; nobody else sees it", async () => {
    await house.mail({
      from: `Juno Abara <${JUNO}>`,
      to: LIST,
      subject: "Held for a word",
      returnPath: STRANGER,
    });
    const teo = await house.signIn("teo.bramwell@copperwheel.example");
    const [held] = (await teo.ask<HeldLine[]>("GET", "/api/held")).body.filter(
      ({ subject }) => subject === "Held for a word",
    );
    expect(held).toMatchObject({ mayDecide: true, text: expect.stringContaining("Hello.") });
    expect(
      (await (await house.signIn(RAVI)).ask<HeldLine[]>("GET", "/api/held")).body.map(
        ({ id }) => id,
      ),
    ).not.toContain(held?.id);
    expect(
      (
        await (
          await house.signIn(RAVI)
        ).ask("POST", `/api/held/${held?.id ?? ""}`, { decision: "let out" })
      ).status,
    ).toBe(404);
    expect(
      (
        await teo.ask("POST", `/api/held/${held?.id ?? ""}`, {
          decision: "return",
          word: "please ask the office",
        })
      ).status,
    ).toBe(200);
    expect(
      (await teo.ask("POST", `/api/held/${held?.id ?? ""}`, { decision: "let out" })).status,
    ).toBe(409);
    expect(await house.mailTo(STRANGER, "Held for a word")).toContain("please ask the office");
  });

  test("to the leads of a list reaches them and nobody else", async () => {
    await house.mail({
      from: `Una Holm <${STRANGER}>`,
      to: LIST.replace("@", "+leads@"),
      subject: "A question",
    });
    const copy = await house.mailTo("teo.bramwell@copperwheel.example", "Subject: A question");
    expect(copy).toContain(`Reply-To: Una Holm <${STRANGER}>`);
    expect((await posts())[0]).toMatchObject({
      subject: "A question",
      outcome: "goes out",
      reaches: "leads",
    });
    expect(
      house.sink.mails.filter(({ raw }) => raw.includes("Subject: A question")).map(({ to }) => to),
    ).toEqual(["teo.bramwell@copperwheel.example"]);
  });

  test("to a list that is not there, or for another domain, is refused when the recipient is named", async () => {
    const refused = (to: string, as?: string) =>
      expect(
        house.mail({ from: as ?? STRANGER, to, ...(as === undefined ? {} : { as }) }),
      ).rejects.toThrow(/550|no such list/);
    await refused("nobody-2627@lists.copperwheel.example");
    await refused("una@oakmail.example");
    await refused("una@oakmail.example", JUNO);
    await refused(
      "ml-wire-parents-2627+b.00000000000000000000000000000000@lists.copperwheel.example",
    );
  });

  test.each([
    ["a delivery report", { returnPath: "" }, /return path is empty/],
    [
      "an automatic answer",
      { headers: { "Auto-Submitted": "auto-replied" } },
      /sent automatically/,
    ],
    [
      "a mail that was on a list of this house",
      { headers: { "List-Id": "<ml-wire.lists.copperwheel.example>" } },
      /already went through one of our lists/,
    ],
  ])("that is %s is dropped and never answered", async (what, parts, reason) => {
    await house.mail({ from: STRANGER, to: LIST, subject: what, ...parts });
    const [line] = await posts();
    expect(line).toMatchObject({ subject: what, outcome: "dropped" });
    const { body } = await juno.ask<PostPage>("GET", `/api/posts/${line?.id ?? ""}`);
    expect(body.reasons.join(" ")).toMatch(reason);
    const [notes] = await house.amigo.context.db
      .select({ count: sql<number>`count(*)`.mapWith(Number) })
      .from(delivery)
      .where(sql`${delivery.postId} is null and ${delivery.state} in ('queued', 'sending')`);
    expect(notes?.count).toBe(0);
    expect(house.sink.mails).toEqual([]);
  });

  test("with the same Message-ID goes out once", async () => {
    const send = () =>
      house.mail({
        from: JUNO,
        to: LIST,
        subject: "Twice",
        headers: { "Message-ID": "<twice@copperwheel.example>" },
        as: JUNO,
      });
    await send();
    await send();
    expect(
      (await posts()).filter(
        ({ subject, outcome }) => subject === "Twice" && outcome === "goes out",
      ),
    ).toHaveLength(1);
  });

  test("with a wrong password is not taken, and the words do not tell why", async () => {
    const transport = (await import("nodemailer")).default.createTransport({
      host: "127.0.0.1",
      port: house.amigo.ports.submission,
      ignoreTLS: true,
      auth: { user: JUNO, pass: "wrong" },
    });
    await expect(transport.sendMail({ from: JUNO, to: LIST, text: "x" })).rejects.toThrow(
      /535.*don't match/,
    );
    transport.close();
  });

  test("never carries a line break of a name or subject into a header", async () => {
    await house.mail({
      to: LIST,
      from: JUNO,
      as: JUNO,
      raw: [
        `From: "Juno\r\n Abara" <${JUNO}>`,
        `To: ${LIST}`,
        "Subject: =?utf-8?B?SGVsbG8NCkJjYzogeEBvYWttYWlsLmV4YW1wbGU=?=",
        "Message-ID: <inject@copperwheel.example>",
        "Bcc: y@oakmail.example",
        "",
        "Text",
        "",
      ].join("\r\n"),
    });
    const mails = await until(
      "the copies",
      () => house.sink.mails,
      (all) => all.length > 0,
    );
    const header = mails[0]?.raw.split("\r\n\r\n")[0] ?? "";
    expect(header.split("\r\n").filter((line) => /^bcc:/i.test(line))).toEqual([]);
    expect(header).toMatch(/^From: "Juno Abara via Wire Walk, guardians" </m);
  });

  test("whose text is no valid mail at all never stops the port", async () => {
    const refused = (raw: string) =>
      expect(house.mail({ from: STRANGER, to: LIST, raw })).rejects.toThrow(/550 5\.7\.1/);
    await refused("\u0001 no header at all");
    await expect(
      house.mail({ from: STRANGER, to: LIST, raw: "Subject: a\u0000b\r\n\r\nx\r\n" }),
    ).rejects.toThrow(/NUL/);
    await refused("Subject: x\r\n\r\na\u0000b\r\n");
    await refused(`Subject: ${"x".repeat(20_000)}\r\n\r\n`);
    const health = await juno.ask<{ smtp: boolean }>("GET", "/api/health");
    expect(health.body.smtp).toBe(true);
  });

  test("over the size limit is refused before it is sent", async () => {
    const answer = await new Promise<string>((resolve, reject) => {
      const socket = connect(house.amigo.ports.incoming, "127.0.0.1");
      let said = "";
      socket.on("data", (data) => {
        said += data.toString();
        if (/^220/.test(said) && !said.includes("250")) socket.write("EHLO test\r\n");
        if (/250 \S+/.test(said)) {
          socket.write(`MAIL FROM:<${STRANGER}> SIZE=99999999\r\n`);
        }
        if (/^5\d\d/m.test(said)) {
          socket.destroy();
          resolve(said);
        }
      });
      socket.on("error", reject);
    });
    expect(answer).toMatch(/^552/m);
  });
});

describe("copies that go out", () => {
  async function send(subject: string): Promise<string> {
    await house.mail({ from: JUNO, to: LIST, subject, as: JUNO });
    const line = await until(
      "the post",
      async () => (await posts()).find((candidate) => candidate.subject === subject),
      (found) => found !== undefined,
    );
    return line?.id ?? "";
  }
  const page = async (id: string): Promise<PostPage> =>
    (await juno.ask<PostPage>("GET", `/api/posts/${id}`)).body;

  test("a temporary refusal is tried again, a permanent one is shown on the post", async () => {
    const busy = "obellweather@lettr.example";
    const gone = "owhitlock@mailhaven.example";
    house.sink.refuse = (address) =>
      address === busy
        ? { code: 451, words: "4.7.1 not now" }
        : address === gone
          ? { code: 550, words: "5.1.1 nobody here" }
          : undefined;
    const id = await send("Greylisted");
    const first = await until(
      "the first tries",
      () => page(id),
      ({ deliveries }) => deliveries.waiting === 0 && deliveries.deferred === 1,
    );
    expect(first.deliveries).toMatchObject({ deferred: 1, bounced: 1 });
    expect(first.recipients.find(({ address }) => address === gone)).toMatchObject({
      state: "bounced",
      reply: expect.stringContaining("5.1.1 nobody here"),
    });
    expect(first.recipients.find(({ address }) => address === busy)).toMatchObject({
      state: "deferred",
      attempts: 1,
      reply: expect.stringContaining("4.7.1 not now"),
    });
    house.sink.refuse = () => undefined;
    await house.amigo.context.db
      .update(delivery)
      .set({ nextAt: sql`now()` })
      .where(eq(delivery.state, "deferred"));
    const second = await until(
      "the second try",
      () => page(id),
      ({ deliveries }) => deliveries.deferred === 0 && deliveries.waiting === 0,
    );
    expect(second.recipients.find(({ address }) => address === busy)).toMatchObject({
      state: "sent",
      attempts: 2,
    });
    expect(house.sink.mails.filter(({ to }) => to === busy)).toHaveLength(1);
  });

  test("a delivery report that comes back marks its copy", async () => {
    const id = await send("Comes back");
    await until(
      "the copies",
      () => page(id),
      ({ deliveries }) => deliveries.waiting === 0,
    );
    const copy = house.sink.mails.find(({ raw }) => raw.includes("Comes back"));
    await house.mail({
      from: "mailer-daemon@brightpost.example",
      to: copy?.from ?? "",
      returnPath: "",
      raw: [
        "From: mailer-daemon@brightpost.example",
        "Subject: failed",
        "Content-Type: multipart/report; report-type=delivery-status; boundary=b",
        "",
        "--b",
        "Content-Type: message/delivery-status",
        "",
        "Reporting-MTA: dns; brightpost.example",
        "",
        `Final-Recipient: rfc822; ${copy?.to ?? ""}`,
        "Action: failed",
        "Status: 5.2.1",
        "Diagnostic-Code: smtp; 550 mailbox closed",
        "",
        "--b--",
        "",
      ].join("\r\n"),
    });
    const after = await page(id);
    expect(after.recipients.find(({ address }) => address === copy?.to)).toMatchObject({
      state: "bounced",
      reply: "550 mailbox closed",
    });
  });

  test("one link, or one click of a mail program, leaves the list for good", async () => {
    const id = await send("Leave me");
    await until(
      "the copies",
      () => page(id),
      ({ deliveries }) => deliveries.waiting === 0,
    );
    const copy = house.sink.mails.find(({ raw }) => raw.includes("Leave me"));
    const link = /List-Unsubscribe: <([^>]+)>/.exec(copy?.raw ?? "")?.[1] ?? "";
    const nobody = house.client();
    const path = new URL(link).pathname;
    const look = await nobody.ask<string>("GET", path);
    expect(look.body).toContain(copy?.to);
    expect((await nobody.ask<string>("GET", path)).body).toContain("Leave this list");
    const { status } = await fetch(`${house.url}${path}`, {
      method: "POST",
      headers: { "Content-Type": "application/x-www-form-urlencoded" },
      body: "List-Unsubscribe=One-Click",
    });
    expect(status).toBe(200);
    expect((await nobody.ask<string>("GET", path)).body).toContain("You are not on");
    const { body } = await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians");
    const members = await juno.ask<{ members: { address: string }[] }>(
      "GET",
      `/api/lists/${body[0]?.id}/members`,
    );
    expect(members.body.members.map(({ address }) => address)).not.toContain(copy?.to);
    await house.read(juno, "autumn-roster-week-2.xlsx", {
      id: (await juno.ask<{ id: string }[]>("GET", "/api/sources")).body[0]?.id ?? "",
    });
    await house.step(juno);
    const later = await juno.ask<{ members: { address: string }[] }>(
      "GET",
      `/api/lists/${body[0]?.id}/members`,
    );
    expect(later.body.members.map(({ address }) => address)).not.toContain(copy?.to);
    expect(
      (await nobody.ask<string>("GET", "/leave/00000000000000000000000000000000")).status,
    ).toBe(404);
  });

  test("two workers together send nothing twice, and a copy that a dead worker had claimed still leaves", async () => {
    const { Deliverer } = await import("./deliver");
    const second = new Deliverer(house.amigo.context);
    const id = await send("Two workers");
    const done = await until(
      "the copies",
      () => page(id),
      ({ deliveries }) => deliveries.waiting === 0,
    );
    const mails = house.sink.mails.filter(({ raw }) => raw.includes("Two workers"));
    expect(mails.length).toBe(done.recipients.length);
    expect(new Set(mails.map(({ to }) => to)).size).toBe(mails.length);
    const db = house.amigo.context.db;
    const [one] = await db
      .select({ id: delivery.id })
      .from(delivery)
      .where(eq(delivery.postId, id))
      .limit(1);
    await db
      .update(delivery)
      .set({ state: "sending", nextAt: sql`now() - interval '1 second'` })
      .where(eq(delivery.id, one?.id ?? 0));
    second.look();
    await until(
      "the claimed copy",
      () => house.sink.mails.filter(({ raw }) => raw.includes("Two workers")).length,
      (sent) => sent === mails.length + 1,
    );
    await second.close();
  });

  test("a relay that is gone for a while loses nothing", async () => {
    const { port } = house.sink;
    await house.sink.close();
    const id = await send("While you were out");
    const waiting = await until(
      "the tries",
      () => page(id),
      ({ recipients }) => recipients.some(({ reply }) => reply.includes("ECONNREFUSED")),
    );
    expect(waiting.deliveries).toMatchObject({ sent: 0, bounced: 0 });
    const { startSink } = await import("../testing/sink");
    house.sink = await startSink(port);
    await until(
      "the copies",
      () => page(id),
      ({ deliveries, recipients }) => deliveries.sent === recipients.length,
    );
    expect(new Set(house.sink.mails.map(({ to }) => to)).size).toBe(waiting.recipients.length);
  });

  test("what happened to a post can't be lost by its text: HTML is shown as text", async () => {
    await house.mail({
      from: JUNO,
      to: LIST,
      as: JUNO,
      subject: "<img src=x onerror=alert(1)>",
      text: "<script>alert(1)</script>",
    });
    const [found] = await house.amigo.context.db
      .select({ subject: post.subject })
      .from(post)
      .where(eq(post.subject, "<img src=x onerror=alert(1)>"));
    expect(found).toBeDefined();
  });
});
