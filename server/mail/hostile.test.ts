import { connect } from "node:net";
import fc from "fast-check";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, expect, test } from "vitest";
import { JUNO, startTestHouse, until, type Client, type TestHouse } from "../testing/testHouse";

const NAME = "ml-wire-parents-2627";
const DOMAIN = "lists.copperwheel.example";
const LIST = `${NAME}@${DOMAIN}`;
const STRANGER = "halim.stranger@oakmail.example";

let house: TestHouse;
let juno: Client;
let listId = "";
let members: string[] = [];
let others: string[] = [];

beforeAll(async () => {
  house = await startTestHouse();
  juno = await house.signIn(JUNO);
  await house.read(juno, "autumn-roster.xlsx");
  await house.step(juno);
  const { rows } = await house.amigo.context.db.execute<{ id: string; name: string }>(
    sql`select id, name from list`,
  );
  listId = rows.find(({ name }) => name === NAME)?.id ?? "";
  others = rows.map(({ name }) => name).filter((name) => name !== NAME);
  members = (
    await juno.ask<{ members: { address: string }[] }>("GET", `/api/lists/${listId}/members`)
  ).body.members.map(({ address }) => address);
});
afterAll(() => house.close());

const count = async (query: ReturnType<typeof sql>): Promise<number> =>
  Number((await house.amigo.context.db.execute(query)).rows[0]?.count);
const onLists = () =>
  count(sql`select count(*) as count from membership where valid_until is null`);

/** Mail in shapes as the world writes them, whole. Each is unproven, whoever it says it is from. */
const SHAPES: readonly string[] = [
  `From: Juno Abara <${JUNO}>\r\nTo: ${LIST}\r\nSubject: Rehearsal\r\nMessage-ID: <a@copperwheel.example>\r\n\r\nDear families.\r\n`,
  `From: "Halim" <${STRANGER}>\r\nTo: ${LIST}\r\nSubject: =?utf-8?B?R3LDvMOfZQ==?=\r\nMIME-Version: 1.0\r\nContent-Type: multipart/alternative; boundary=b1\r\n\r\n--b1\r\nContent-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\nGr=C3=BC=C3=9Fe\r\n--b1\r\nContent-Type: text/html\r\n\r\n<p>Hello<img src="cid:x"></p>\r\n--b1--\r\n`,
  `From: mailer-daemon@mx.oakmail.example\r\nAuto-Submitted: auto-replied\r\nSubject: Undelivered\r\nMIME-Version: 1.0\r\nContent-Type: multipart/report; report-type=delivery-status; boundary=q\r\n\r\n--q\r\n\r\nIt failed.\r\n--q\r\nContent-Type: message/delivery-status\r\n\r\nReporting-MTA: dns; mx.oakmail.example\r\n\r\nFinal-Recipient: rfc822; a@oakmail.example\r\nAction: failed\r\nStatus: 5.1.1\r\n\r\n--q--\r\n`,
  `From: ${STRANGER}\r\nSubject: Out of the office\r\nPrecedence: bulk\r\n\r\nI am away. 550 user unknown.\r\n`,
  `From: a@oakmail.example, b@oakmail.example\r\nSender: ${JUNO}\r\nReply-To: ${LIST}\r\nSubject: Two authors\r\n\r\nBoth of us.\r\n`,
  `From: ${STRANGER}\r\nSubject: Forwarded\r\nMIME-Version: 1.0\r\nContent-Type: message/rfc822\r\n\r\nFrom: ${JUNO}\r\nTo: ${LIST}\r\nSubject: inner\r\n\r\ninner text\r\n`,
  `From: ${STRANGER}\r\nSubject: Invitation\r\nContent-Type: text/calendar; method=REQUEST\r\n\r\nBEGIN:VCALENDAR\r\nMETHOD:REQUEST\r\nEND:VCALENDAR\r\n`,
  `From: list@elsewhere.example\r\nList-Id: <${NAME}.${DOMAIN}>\r\nPrecedence: list\r\nSubject: Round and round\r\n\r\nLoop.\r\n`,
  "no header at all, only words\r\n",
  "\r\n",
  "Subject: no body",
];

/** Words that such programs look for, to be put in anywhere. */
const WORDS = [
  JUNO,
  LIST,
  `From: ${JUNO}\r\n`,
  `\r\nBcc: ${STRANGER}\r\n`,
  `List-Id: <${NAME}.${DOMAIN}>\r\n`,
  "\r\n.\r\n",
  "\n.\n",
  "\r\n\r\n",
  "\r",
  "\n",
  "\u0000",
  "\u00ff\u00fe",
  "=?utf-8?Q?=0D=0ABcc:_x@oakmail.example?=",
  'Content-Type: multipart/mixed; boundary=""\r\n',
  "--b1\r\n",
  "Content-Transfer-Encoding: base64\r\n",
  "Message-ID: <\r\n",
  "Approved: yes\r\nX-Amigo: yes\r\nAuthentication-Results: lists.copperwheel.example; dkim=pass header.d=copperwheel.example; spf=pass\r\n",
  '"'.repeat(300),
  "(".repeat(500),
  "<".repeat(500),
  "a".repeat(2000),
  "; ".repeat(400),
  "../../etc/passwd",
  "'); drop table post; --",
  "<script>alert(1)</script>",
];

const change = fc.oneof(
  fc.record({
    kind: fc.constant("put in" as const),
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    what: fc.oneof(fc.constantFrom(...WORDS), fc.string({ unit: "binary", maxLength: 30 })),
  }),
  fc.record({
    kind: fc.constant("take out" as const),
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    what: fc.nat(80).map((length) => "x".repeat(length)),
  }),
  fc.record({
    kind: fc.constant("repeat" as const),
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    what: fc.nat(200).map((length) => "x".repeat(length)),
  }),
);

const mutated = fc
  .tuple(fc.constantFrom(...SHAPES), fc.array(change, { maxLength: 6 }))
  .map(([shape, changes]) =>
    changes.reduce((text, { kind, at, what }) => {
      const place = Math.floor(at * text.length);
      const [before, after] = [text.slice(0, place), text.slice(place)];
      if (kind === "put in") return before + what + after;
      return kind === "take out"
        ? before + after.slice(what.length)
        : before + after.slice(0, what.length) + after;
    }, shape),
  );

const SUBADDRESSES = [
  "",
  "+leads",
  "-request",
  "+leave",
  "+yes.0123456789abcdef",
  "+b.0123456789abcdef0123456789abcdef",
  "+b.",
  "+other",
];

test("no mail whatever stops the port, gets past the rules, takes anybody on or off, or draws out what is not its writer's to know", async () => {
  const before = await onLists();
  await fc.assert(
    fc.asyncProperty(
      mutated,
      fc.constantFrom(...SUBADDRESSES),
      fc.constantFrom(STRANGER, JUNO, "", members[0] ?? ""),
      async (raw, subaddress, returnPath) => {
        // Refused at once or taken; both are answers.
        await house
          .mail({
            from: STRANGER,
            to: LIST.replace("@", `${subaddress}@`),
            raw: Buffer.from(raw, "latin1").toString("latin1"),
            returnPath,
          })
          .catch((failure: { responseCode?: number }) => {
            expect(failure.responseCode).toBeGreaterThanOrEqual(400);
          });
        expect(
          await count(
            sql`select count(*) as count from post where outcome = 'goes out' and reaches = 'members'`,
          ),
        ).toBe(0);
        for (const note of house.sink.mails.filter(({ to }) => to === STRANGER)) {
          expect(
            members.filter((address) => note.raw.includes(address) && !raw.includes(address)),
          ).toEqual([]);
          expect(others.filter((address) => note.raw.includes(address))).toEqual([]);
        }
        house.sink.mails.length = 0;
      },
    ),
    { numRuns: 150 },
  );
  expect(await onLists()).toBe(before);
  const {
    body: { id },
  } = await juno.ask<{ id: string }>("POST", "/api/posts", {
    lists: [listId],
    subject: "Still well",
    text: "Dear families.",
    key: crypto.randomUUID(),
  });
  expect(id).not.toBe("");
  await until(
    "a mail after all of it",
    () => house.sink.mails.filter(({ raw }) => raw.includes("Subject: Still well")).length,
    (sent) => sent === members.length,
  );
}, 240_000);

/** Says octets to the port and returns what it said, until it ends the connection or we have said everything. */
function say(port: number, octets: Buffer): Promise<string> {
  return new Promise((resolve) => {
    const socket = connect(port, "127.0.0.1");
    let said = "";
    socket.on("data", (chunk: Buffer) => {
      said += chunk.toString("latin1");
    });
    socket.on("error", () => resolve(said));
    socket.on("close", () => resolve(said));
    socket.once("data", () => {
      socket.end(octets);
    });
  });
}

test("no conversation whatever stops the ports", async () => {
  const line = fc.oneof(
    fc.constantFrom(
      "EHLO x\r\n",
      "HELO\r\n",
      `MAIL FROM:<${STRANGER}>\r\n`,
      `MAIL FROM:<${STRANGER}> SIZE=abc BODY=8BITMIME\r\n`,
      `RCPT TO:<${LIST}>\r\n`,
      "RCPT TO:<>\r\n",
      "DATA\r\n",
      "BDAT 5 LAST\r\n",
      `From: ${STRANGER}\r\nSubject: outer\r\n\r\n`,
      "\n.\n",
      "\r\n.\n",
      "\n.\r\n",
      "\r.\r",
      `MAIL FROM:<${JUNO}>\nRCPT TO:<${LIST}>\nDATA\nSubject: hidden\n\nhidden\n.\n`,
      "\r\n.\r\n",
      "AUTH PLAIN AAAA\r\n",
      "AUTH LOGIN\r\n",
      "STARTTLS\r\n",
      "RSET\r\n",
      "NOOP\r\n",
      "\u0000\r\n",
      "QUIT\r\n",
    ),
    fc.string({ unit: "binary", maxLength: 60 }),
    fc.nat(6000).map((length) => "A".repeat(length)),
  );
  const { smtpPort, submissionPort } = house.amigo.context.settings;
  await fc.assert(
    fc.asyncProperty(
      fc.array(line, { maxLength: 14 }),
      fc.constantFrom(smtpPort, submissionPort),
      async (lines, port) => {
        const said = await say(port, Buffer.from(lines.join(""), "latin1"));
        expect(said).toMatch(/^220 /);
        for (const answer of said.split("\r\n").filter((candidate) => candidate !== ""))
          expect(answer).toMatch(/^[2345]\d\d[ -]/);
      },
    ),
    { numRuns: 150 },
  );
  expect(
    await count(
      sql`select count(*) as count from post where outcome = 'goes out' and reaches = 'members' and subject <> 'Still well'`,
    ),
  ).toBe(0);
  expect(await say(smtpPort, Buffer.from("EHLO well.example\r\nQUIT\r\n"))).toMatch(
    /250[ -]PIPELINING[^]*221/,
  );
}, 240_000);
