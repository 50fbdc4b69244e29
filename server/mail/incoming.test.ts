import { connect } from "node:net";
import { dkimSign } from "mailauth/lib/dkim/sign";
import { sql } from "drizzle-orm";
import {
  Command,
  IPv4Address,
  IPv4ProxyAddress,
  TransportProtocol,
  V2ProxyProtocol,
} from "proxy-protocol-js";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import type { HeldLine, PostLine } from "@amigo/contract/posts";
import { tellHeldLater } from "../posting/tellHeld";
import { openZone, proven } from "../testing/openZone";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";

const DOMAIN = "lists.copperwheel.example";
const WIRE = `ml-wire-parents-2627@${DOMAIN}`;
const HOOPS = `ml-hoops-parents-2627@${DOMAIN}`;
const STRANGER = "stranger@brightpost.example";

let house: TestHouse;
let juno: Client;

const HEAD = "Student no.,Surname,First name,Site,Class,Coach,Parent 1,Email 1";
const line = (at: number, cohort: string, name: string, address: string): string =>
  `CW-${at},${name.split(" ")[1] ?? ""},Child${at},Mill Loft,${cohort},Teo Bramwell,${name},${address}`;

beforeAll(async () => {
  house = await startTestHouse({
    settings: {
      AMIGO_MAIL_FRONT: "127.0.0.2",
      AMIGO_MAIL_FRONT_NAME: "mx.copperwheel.example",
      AMIGO_MAIL_PROXY: "127.0.0.3",
    },
  });
  juno = await house.signIn(JUNO);
  await house.readLines(
    juno,
    [
      HEAD,
      line(1, "Wire Walk", "Otto Holm", "otto@lettr.example"),
      line(2, "Hoops", "Otto Holm", "otto@lettr.example"),
      line(3, "Wire Walk", "Una Strand", "una@lettr.example"),
      line(4, "Hoops", "Ada Fenn", "ada@oakmail.example"),
    ],
    { name: "Roster" },
  );
  await house.step(juno);
  // Discussions, which take mail of their members.
  await house.amigo.context.db.execute(
    sql`update list set rules = rules || '{"writers": "members", "membersPosts": "everybody", "perDay": "500", "replies": "list"}'::jsonb where name in ('ml-wire-parents-2627', 'ml-hoops-parents-2627')`,
  );
});
afterAll(() => house.close());
beforeEach(() => {
  house.sink.mails.length = 0;
  house.sink.refuse = () => undefined;
});

interface Logged extends Record<string, unknown> {
  id: string;
  from_name: string;
  proof: string;
  answer: string;
  network: string;
  results: string[];
  recipients: string[];
}

/** What the mail log says of the mails with a subject, the oldest first. */
async function logged(subject: string): Promise<Logged[]> {
  const { rows } = await house.amigo.context.db.execute<Logged>(sql`
    select mail_in.*, (select array_agg(result order by place) from mail_in_part where mail_id = mail_in.id) as results,
      (select array_agg(recipient order by place) from mail_in_part where mail_id = mail_in.id) as recipients
    from mail_in where subject = ${subject} order by at`);
  return rows;
}

const post = async (subject: string): Promise<PostLine | undefined> =>
  (await juno.ask<PostLine[]>("GET", "/api/posts")).body.find((one) => one.subject === subject);

/** Waits for some copies of a mail with a subject, and returns to whom they came. */
async function recipientsOf(subject: string, count: number): Promise<string[]> {
  const mails = await until(
    `${count} copies of ${subject}`,
    () => house.sink.mails.filter(({ raw }) => raw.includes(`\nSubject: ${subject}\r\n`)),
    (found) => found.length >= count,
  );
  return mails.map(({ to }) => to).sort();
}

/** Says some lines over SMTP from an address of this machine, waiting for an answer after each, and returns all answers. */
async function say(
  lines: readonly string[],
  from = "127.0.0.1",
  binary?: Uint8Array,
): Promise<string[]> {
  return new Promise((resolve, reject) => {
    const answers: string[] = [];
    const left = [...lines];
    let told = "";
    const socket = connect({
      port: house.amigo.ports.incoming,
      host: "127.0.0.1",
      localAddress: from,
    });
    const next = (): void => {
      const line = left.shift();
      if (line === undefined) {
        socket.destroy();
        resolve(answers);
      } else socket.write(`${line}\r\n`);
    };
    if (lines[0]?.startsWith("PROXY") === true) next();
    // In two pieces, as it can come.
    if (binary !== undefined) {
      socket.write(binary.subarray(0, 9));
      setImmediate(() => socket.write(binary.subarray(9)));
    }
    socket.on("data", (data) => {
      told += data.toString();
      const end = /^\d{3} .*\r\n$/m.exec(told);
      if (end === null) return;
      answers.push(told.trim());
      told = "";
      next();
    });
    socket.on("error", reject);
    socket.on("close", () => resolve(answers));
  });
}

const mail = (from: string, to: string, subject: string, fields: readonly string[] = []): string =>
  [
    ...fields,
    `From: ${from}`,
    `To: ${to}`,
    `Subject: ${subject}`,
    "Date: Mon, 30 Nov 2026 09:00:00 +0000",
    "",
    "Hello.",
    ".",
  ].join("\r\n");

describe("every mail that comes in", () => {
  test("is answered with its id, is found in the log by it, and carries the trace of its way", async () => {
    const answers = await proven(house, () =>
      say([
        "EHLO mx.lettr.example",
        "MAIL FROM:<otto@lettr.example>",
        `RCPT TO:<${WIRE}>`,
        "DATA",
        mail("Otto <otto@lettr.example>", WIRE, "Traced"),
      ]),
    );
    const [, id = ""] = /^250 2\.0\.0 taken as ([0-9A-Z]{10})$/.exec(answers.at(-1) ?? "") ?? [];
    expect(await logged("Traced")).toMatchObject([
      {
        id,
        from_name: "Otto",
        proof: "spf",
        answer: `250 2.0.0 taken as ${id}`,
        results: ["goes out"],
      },
    ]);
    const { rows } = await house.amigo.context.db.execute<{ raw: Buffer }>(
      sql`select raw from message join post on post.message_id = message.id where post.subject = 'Traced'`,
    );
    expect(rows[0]?.raw.toString()).toMatch(
      new RegExp(
        `^Received: from mx\\.lettr\\.example \\(\\[127\\.0\\.0\\.1\\]\\)\\r\\n\\tby ${DOMAIN} with ESMTP id ${id}\\r\\n\\tfor <${WIRE}>;\\r\\n\\t\\w{3}, `,
      ),
    );
    expect(await recipientsOf("Traced", 2)).toHaveLength(2);
    expect(house.sink.mails.some(({ raw }) => raw.includes("Received:"))).toBe(false);
  });

  test("is in the log when it is refused before it is read, without the secrets in its addresses", async () => {
    const answers = await say([
      "EHLO x",
      `MAIL FROM:<${STRANGER}>`,
      `RCPT TO:<${WIRE}>`,
      "DATA",
      `${"Received: by x\r\n".repeat(60)}Subject: Round\r\n\r\nx\r\n.`,
    ]);
    expect(answers.at(-1)).toMatch(/^554 5\.4\.6/);
    const { rows } = await house.amigo.context.db.execute<{ answer: string }>(
      sql`select answer from mail_in where return_path = ${STRANGER} and answer like '554%'`,
    );
    expect(rows).toHaveLength(1);
  });

  test("may go to a bare postmaster", async () => {
    const answers = await say([
      "EHLO x",
      `MAIL FROM:<${STRANGER}>`,
      "RCPT TO:<postmaster>",
      "DATA",
      mail(STRANGER, "postmaster", "To the postmaster"),
    ]);
    expect(answers.at(-1)).toMatch(/^250/);
    await house.mailTo(JUNO, "Subject: To the postmaster");
    expect((await logged("To the postmaster"))[0]?.results).toEqual(["to the coordinators"]);
  });
});

describe("whose mail it is", () => {
  test("is said by the house's name for an address it knows, and by none that belongs to others", async () => {
    await proven(house, () =>
      house.mail({
        from: `"=?utf-8?B?${Buffer.from("The Chairwoman").toString("base64")}?=" <una@lettr.example>`,
        to: WIRE,
        subject: "By another name",
      }),
    );
    await house.mailTo("otto@lettr.example", "By another name");
    expect(house.sink.mails[0]?.raw).toMatch(/^From: "Una Strand via /m);
    await proven(house, () =>
      house.mail({
        raw: mail(
          `=?utf-8?B?${Buffer.from("Juno Аbara").toString("base64")}?= <juno@fernpost.example>`,
          WIRE.replace("@", "+leads@"),
          "From the office",
        ).slice(0, -1),
        from: "juno@fernpost.example",
        to: WIRE.replace("@", "+leads@"),
      }),
    );
    expect(await post("From the office")).toMatchObject({ from: "juno@fernpost.example" });
    const { rows } = await house.amigo.context.db.execute<{ reasons: string[] }>(
      sql`select reasons from post where subject = 'From the office'`,
    );
    expect(rows[0]?.reasons[0]).toBe(
      "The name on this mail, “Juno Аbara”, reads like that of Juno Abara, a coordinator, but the address isn't theirs. So the name isn't shown.",
    );
    expect((await logged("From the office"))[0]?.from_name).toBe("Juno Аbara");
  });

  test("is read from encoded words and from raw UTF-8 alike", async () => {
    for (const name of ["=?iso-8859-2?Q?Mi=B3osz_Nowak?=", "Miłosz Nowak"])
      await house.mail({
        raw: mail(`${name} <milosz@fernpost.example>`, WIRE, `Named ${name.length}`).slice(0, -1),
        from: "milosz@fernpost.example",
        to: WIRE.replace("@", "+leads@"),
      });
    const { rows } = await house.amigo.context.db.execute<{ name: string }>(
      sql`select from_name as name from post where subject like 'Named %'`,
    );
    expect(rows).toEqual([{ name: "Miłosz Nowak" }, { name: "Miłosz Nowak" }]);
  });
});

test("a proxy may say for whom it speaks in binary, and nobody else", async () => {
  const header = (source: IPv4Address, command = Command.PROXY) =>
    new V2ProxyProtocol(
      command,
      TransportProtocol.STREAM,
      new IPv4ProxyAddress(source, 40_000, IPv4Address.createFrom([192, 0, 2, 1]), 25),
    ).build();
  const talk = (subject: string) => [
    "EHLO mx.example",
    "MAIL FROM:<a@oakmail.example>",
    `RCPT TO:<${WIRE.replace("@", "+leads@")}>`,
    "DATA",
    mail("a@oakmail.example", WIRE, subject),
  ];
  const source = IPv4Address.createFrom([203, 0, 113, 77]);
  await say(talk("By a binary header"), "127.0.0.3", header(source));
  expect(await logged("By a binary header")).toMatchObject([{ network: "203.0.113.77" }]);
  await say(talk("For itself"), "127.0.0.3", header(source, Command.LOCAL));
  expect(await logged("For itself")).toMatchObject([{ network: "127.0.0.3" }]);
  // From elsewhere it is no SMTP.
  expect((await say(talk("Not a proxy"), "127.0.0.9", header(source))).join()).not.toContain(
    "250 2.0.0 taken",
  );
  const broken = header(source).slice();
  broken.set([0xff, 0xff], 14);
  expect(await say(talk("Too long"), "127.0.0.3", broken)).toEqual([]);
});

describe("a mail whose sender's own domain disowns it", () => {
  const RECORDS = {
    "strict.example": "v=spf1 ip4:198.51.100.7 -all",
    "_dmarc.strict.example": "v=DMARC1; p=reject",
    "plain.example": "v=spf1 ip4:198.51.100.7 -all",
  };
  const from = (ip: string, sender: string, author: string, subject: string) =>
    proven(
      house,
      () =>
        say(
          [
            `PROXY TCP4 ${ip} 192.0.2.1 40000 25`,
            "EHLO mx.example",
            `MAIL FROM:<${sender}>`,
            `RCPT TO:<${WIRE.replace("@", "+leads@")}>`,
            "DATA",
            mail(author, WIRE, subject),
          ],
          "127.0.0.3",
        ),
      { "mx.elsewhere.example": "v=spf1 -all", "elsewhere.example": "v=spf1 +all", ...RECORDS },
    );

  test("is refused at the door, and in the log as forged", async () => {
    const dmarc = await from(
      "203.0.113.9",
      "x@elsewhere.example",
      "Head <head@strict.example>",
      "By DMARC",
    );
    expect(dmarc.at(-1)).toMatch(/^550 5\.7\.1 .*DMARC/);
    const spf = await from("203.0.113.9", "a@plain.example", "a@plain.example", "By SPF");
    expect(spf.at(-1)).toMatch(/^550 5\.7\.23 .*SPF/);
    for (const subject of ["By DMARC", "By SPF"])
      expect(await logged(subject)).toMatchObject([
        { proof: "forged", results: ["refused"], network: "203.0.113.9" },
      ]);
    expect(await post("By DMARC")).toBeUndefined();
  });

  test("is taken where its own server hands it in", async () => {
    const answers = await from("198.51.100.7", "a@strict.example", "a@strict.example", "Its own");
    expect(answers.at(-1)).toMatch(/^250/);
    expect((await logged("Its own"))[0]?.proof).toBe("spf");
  });
});

describe("behind a mail server of one's own", () => {
  test("the address that it names is judged, or else what it found out itself", async () => {
    const through = (lines: readonly string[], subject: string, fields: readonly string[] = []) =>
      proven(
        house,
        () =>
          say(
            [
              "EHLO mx.copperwheel.example",
              ...lines,
              "MAIL FROM:<otto@lettr.example>",
              `RCPT TO:<${WIRE}>`,
              "DATA",
              mail("otto@lettr.example", WIRE, subject, fields),
            ],
            "127.0.0.2",
          ),
        { "lettr.example": "v=spf1 ip4:198.51.100.7 -all" },
      );
    await through(["XFORWARD ADDR=198.51.100.7 HELO=mx.lettr.example"], "Named by it");
    expect(await logged("Named by it")).toMatchObject([
      { network: "198.51.100.7", helo: "mx.lettr.example", proof: "spf" },
    ]);
    await through([], "Found by it", [
      "Authentication-Results: mx.copperwheel.example; spf=pass smtp.mailfrom=otto@lettr.example",
    ]);
    expect((await logged("Found by it"))[0]?.proof).toBe("spf");
    await through([], "Found by nobody", [
      "Authentication-Results: mx.elsewhere.example; spf=pass smtp.mailfrom=otto@lettr.example",
    ]);
    expect((await logged("Found by nobody"))[0]?.proof).toBe("none");
  });

  test("nobody else may name an address or be believed", async () => {
    const [, , answer] = await say(["EHLO x", "XFORWARD ADDR=198.51.100.7"]);
    expect(answer).toMatch(/^5\d\d/);
    await house.mail({
      raw: mail("otto@lettr.example", WIRE, "Believed?", [
        "Authentication-Results: mx.copperwheel.example; spf=pass smtp.mailfrom=otto@lettr.example",
      ]).slice(0, -1),
      from: "otto@lettr.example",
      to: WIRE,
    });
    expect((await logged("Believed?"))[0]).toMatchObject({ proof: "none", results: ["held"] });
  });
});

describe("the same mail", () => {
  test("to two lists reaches each address once, in one session or in two", async () => {
    const send = (to: string | string[], subject: string) =>
      house.mail({
        from: "otto@lettr.example",
        to,
        subject,
        headers: { "Message-ID": `<${subject}@lettr.example>` },
      });
    const everybody = ["ada@oakmail.example", "otto@lettr.example", "una@lettr.example"];
    await proven(house, () => send([WIRE, HOOPS], "together"));
    expect(await recipientsOf("together", 3)).toEqual(everybody);
    await proven(house, () => Promise.all([WIRE, HOOPS].map((to) => send(to, "apart"))));
    // A last mail behind them shows that no other is on its way.
    await proven(house, () => send(HOOPS, "last"));
    await recipientsOf("last", 2);
    expect(await recipientsOf("apart", 3)).toEqual(everybody);
  });

  test("with another's message id is no reason to leave anybody out", async () => {
    const send = (from: string) =>
      proven(house, () =>
        house.mail({
          from,
          to: from.startsWith("una") ? WIRE : HOOPS,
          subject: "Same id",
          headers: { "Message-ID": "<same@lettr.example>" },
        }),
      );
    await send("una@lettr.example");
    await send("ada@oakmail.example");
    await until(
      "four copies",
      () => house.sink.mails,
      (mails) => mails.length === 4,
    );
  });

  test("is known by its signature, whatever id it is given", async () => {
    const { houseKey } = house.amigo.context;
    const body = [
      `From: otto@${DOMAIN}`,
      `To: ${WIRE}`,
      "Subject: Signed once",
      `Date: ${new Date().toUTCString()}`,
    ].join("\r\n");
    const raw = `${body}\r\n\r\nHello.\r\n`;
    const { signatures } = await dkimSign(raw, {
      signingDomain: DOMAIN,
      selector: "amigo",
      privateKey: houseKey,
      canonicalization: "relaxed/relaxed",
      signatureData: [{ signingDomain: DOMAIN, selector: "amigo", privateKey: houseKey }],
    });
    await house.amigo.context.db.execute(
      sql`update list set rules = rules || ${JSON.stringify({ also: `otto@${DOMAIN}` })}::jsonb where name = 'ml-wire-parents-2627'`,
    );
    const before = house.amigo.context.resolver;
    house.amigo.context.resolver = openZone(house, { [DOMAIN]: "v=spf1 ?all" });
    try {
      for (const id of ["<one@x.example>", "<two@x.example>"])
        await house.mail({
          raw: `Message-ID: ${id}\r\n${signatures}${raw}`,
          from: `otto@${DOMAIN}`,
          to: WIRE,
        });
    } finally {
      house.amigo.context.resolver = before;
    }
    expect((await logged("Signed once")).map(({ proof, results }) => [proof, ...results])).toEqual([
      ["dkim", "goes out"],
      ["dkim", "repeated"],
    ]);
  });
});

test("what a program writes reaches no list, whatever it is called", async () => {
  const cases: Record<string, Record<string, string>> = {
    "Automatic reply: Rehearsal": {},
    "Abwesenheitsnotiz: Probe": {},
    "Out of office": { "In-Reply-To": "<x@y.example>" },
    Suppressed: { "X-Auto-Response-Suppress": "All" },
  };
  for (const [subject, headers] of Object.entries(cases))
    await proven(house, () =>
      house.mail({ from: "otto@lettr.example", to: WIRE, subject, headers }),
    );
  const receipt = [
    "From: otto@lettr.example",
    `To: ${WIRE}`,
    "Subject: Read: Rehearsal",
    "MIME-Version: 1.0",
    'Content-Type: multipart/report; report-type=disposition-notification; boundary="b"',
    "",
    "--b",
    "Content-Type: text/plain",
    "",
    "It was read.",
    "--b--",
    "",
  ].join("\r\n");
  await proven(house, () => house.mail({ raw: receipt, from: "otto@lettr.example", to: WIRE }));
  for (const subject of [...Object.keys(cases), "Read: Rehearsal"])
    expect((await logged(subject))[0]?.results, subject).toEqual(["discarded"]);
  expect(house.sink.mails).toEqual([]);
  const held = (await juno.ask<HeldLine[]>("GET", "/api/held")).body;
  expect(held.map(({ subject }) => subject)).not.toContain("Out of office");
});

test("leads hear of the first held mail at once, and within the hour of all others by one note", async () => {
  const { db } = house.amigo.context;
  const teo = "teo.bramwell@copperwheel.example";
  await db.execute(sql`delete from mailed_link where purpose = 'held mail'`);
  await db.execute(sql`update post set outcome = 'dropped' where outcome = 'held'`);
  await db.execute(
    sql`update list set rules = rules || '{"otherMail": "held"}'::jsonb where name = 'ml-wire-parents-2627'`,
  );
  const hold = (subject: string) => house.mail({ from: "una@lettr.example", to: WIRE, subject });
  const notes = () =>
    house.sink.mails.filter(({ to, raw }) => to === teo && /ait.* for you/i.test(raw));
  await hold("Held one");
  await until("the first note", notes, (found) => found.length === 1);
  await Promise.all([hold("Held two"), hold("Held three")]);
  expect(await tellHeldLater(house.amigo.context)).toBe(0);
  await db.execute(
    sql`update mailed_link set created_at = now() - interval '61 minutes' where purpose = 'held mail'`,
  );
  await Promise.all([1, 2].map(() => tellHeldLater(house.amigo.context)));
  const [, second] = await until("the second note", notes, (found) => found.length >= 2);
  expect(second?.raw).toContain("Subject: 2 mails wait for you");
  const text = second?.raw.replace(/=\r\n/g, "") ?? "";
  expect(text).toMatch(/1\. Una Strand \(una@lettr\.example\) to Wire Walk.*Held t/);
  const pages = text.match(/\/held\/[\w-]+/g) ?? [];
  expect(pages).toHaveLength(2);
  for (const page of pages)
    expect(await (await fetch(`${house.url}${page}`)).text()).toMatch(/Held (two|three)/);
  expect(await tellHeldLater(house.amigo.context)).toBe(0);
  expect(notes()).toHaveLength(2);
});

test("a list's own address can't be put on a list", async () => {
  const [{ id } = { id: "" }] = (
    await juno.ask<{ id: string }[]>("GET", "/api/lists?q=wire guardians")
  ).body;
  const answer = await juno.ask<{ detail: string }>("POST", `/api/lists/${id}/kept`, {
    address: HOOPS,
    side: "on",
    reason: "Everybody",
    lastDay: "",
  });
  expect(answer.status).toBe(422);
  expect(answer.body.detail).toContain("is the address of a list");
});

test("a sheet that names a list's address puts it on no list, and says so at its cell", async () => {
  const { reading } = await house.readLines(
    juno,
    [HEAD, line(901, "Wire Walk", "Looping Parent", HOOPS)],
    { name: "With a list" },
  );
  const { body } = await juno.ask<{ faults: { fault: string }[] }>(
    "GET",
    `/api/readings/${reading}`,
  );
  expect(body.faults.map(({ fault }) => fault)).toContain("of-a-list");
  const { rows } = await house.amigo.context.db.execute(
    sql`select 1 from fact where kind = 'address' and ref = ${HOOPS}`,
  );
  expect(rows).toEqual([]);
});
