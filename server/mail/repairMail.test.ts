import fc from "fast-check";
import { simpleParser } from "mailparser";
import { describe, expect, test } from "vitest";
import { isBeyondRepair, repairMail } from "./repairMail";

const AT = new Date("2026-11-30T09:00:00Z");
const ID = "<made@lists.copperwheel.example>";
const HEAD =
  "From: a@lettr.example\r\nDate: Mon, 30 Nov 2026 08:00:00 +0000\r\nMessage-ID: <x@y>\r\n";
const repair = (raw: string | Buffer): Buffer =>
  repairMail(typeof raw === "string" ? Buffer.from(raw, "utf8") : raw, AT, ID);
const linesOf = (raw: Buffer): number[] =>
  raw
    .toString("latin1")
    .split("\r\n")
    .map(({ length }) => length);

describe("a mail that is right", () => {
  test.each([
    ["plain", `${HEAD}\r\nHello.\r\n`],
    [
      "labelled 8-bit",
      `${HEAD}Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n\r\nGrüße.\r\n`,
    ],
    [
      "in parts",
      `${HEAD}Content-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Transfer-Encoding: 8bit\r\nContent-Type: text/plain; charset=utf-8\r\n\r\nGrüße.\r\n--b--\r\n`,
    ],
    [
      "signed",
      `${HEAD}Content-Type: multipart/signed; boundary=b\r\n\r\n--b\r\n\r\nGrüße.\r\n--b--\r\n`,
    ],
  ])("stays itself to the octet: %s", (_name, raw) => {
    const octets = Buffer.from(raw);
    expect(repair(octets)).toBe(octets);
  });
});

describe("a mail that isn't", () => {
  test("gets the date and the id that it lacks", () => {
    expect(repair("From: a@b.example\r\nSubject: x\r\n\r\nHello.\r\n").toString()).toBe(
      `Date: Mon, 30 Nov 2026 09:00:00 +0000\r\nMessage-ID: ${ID}\r\nFrom: a@b.example\r\nSubject: x\r\n\r\nHello.\r\n`,
    );
  });

  test("gets its raw UTF-8 or Latin-1 subject in encoded words", async () => {
    const subject = async (raw: Buffer) => (await simpleParser(repair(raw))).subject;
    expect(await subject(Buffer.from(`${HEAD}Subject: Grüße, 你好\r\n\r\nx\r\n`))).toBe(
      "Grüße, 你好",
    );
    expect(await subject(Buffer.from(`${HEAD}Subject: Gr\xfc\xdfe\r\n\r\nx\r\n`, "latin1"))).toBe(
      "Grüße",
    );
  });

  test("has its unlabelled 8-bit text encoded, and its charset said where it isn't", async () => {
    for (const [octets, type] of [
      [Buffer.from("Grüße aus Łódź"), ""],
      [Buffer.from("Grüße", "latin1"), ""],
      [Buffer.from("Gr\xfc\xdfe", "latin1"), "Content-Type: text/plain; charset=iso-8859-1\r\n"],
    ] as const) {
      const made = repair(Buffer.concat([Buffer.from(`${HEAD}${type}\r\n`), octets]));
      expect(made.every((octet) => octet < 128)).toBe(true);
      expect((await simpleParser(made)).text?.trim()).toMatch(/^Grüße( aus Łódź)?$/);
    }
  });

  test("has only those parts touched that need it", async () => {
    const long = "é".repeat(1500);
    const file = Buffer.from("octets of a file".repeat(200));
    const raw = [
      `${HEAD}Content-Type: multipart/mixed; boundary="a b"`,
      "",
      "A preamble.",
      "--a b",
      "Content-Type: multipart/alternative; boundary=inner",
      "",
      "--inner",
      "Content-Type: text/plain; charset=utf-8",
      "Content-Transfer-Encoding: 8bit",
      "",
      long,
      "--inner",
      "Content-Type: text/html; charset=us-ascii",
      "",
      "<p>Left as it is.</p>",
      "--inner--",
      "--a b",
      "Content-Type: application/octet-stream",
      "Content-Transfer-Encoding: base64",
      "",
      file.toString("base64"),
      "--a b",
      "",
      "A part without a header.",
      "--a b--",
      "An epilogue.",
      "",
    ].join("\r\n");
    const made = repair(raw);
    expect(Math.max(...linesOf(made))).toBeLessThanOrEqual(998);
    expect(made.toString()).toContain(
      "\r\n--inner\r\nContent-Type: text/html; charset=us-ascii\r\n\r\n<p>Left as it is.</p>\r\n--inner--\r\n--a b\r\n",
    );
    expect(made.toString()).toMatch(
      /\r\n\r\nA part without a header\.\r\n--a b--\r\nAn epilogue\.\r\n$/,
    );
    const parsed = await simpleParser(made);
    expect(parsed.text).toContain(long);
    expect(parsed.attachments[0]?.content.equals(file)).toBe(true);
    expect(repair(made)).toBe(made);
  });

  test("that is signed or encrypted can't be made right where its lines are too long", () => {
    const signed = `${HEAD}Content-Type: multipart/signed; boundary=b\r\n\r\n--b\r\n\r\n`;
    expect(isBeyondRepair(Buffer.from(`${signed}${"x".repeat(999)}\r\n--b--\r\n`))).toBe(true);
    expect(isBeyondRepair(Buffer.from(`${signed}${"x".repeat(998)}\r\n--b--\r\n`))).toBe(false);
    expect(isBeyondRepair(Buffer.from(`${HEAD}\r\n${"x".repeat(5000)}\r\n`))).toBe(false);
  });
});

test("any text says the same afterwards, in lines that fit, and is not touched twice", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.string({ unit: "grapheme", maxLength: 1200 }), { maxLength: 5 }),
      fc.boolean(),
      async (lines, inParts) => {
        const text = lines
          .join("\r\n")
          .replace(/\r(?!\n)|(?<!\r)\n/g, " ")
          .replace(/\u0000/g, "");
        const raw = inParts
          ? `${HEAD}Content-Type: multipart/mixed; boundary=zq9\r\n\r\n--zq9\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n${text}\r\n--zq9--\r\n`
          : `${HEAD}Content-Type: text/plain; charset=utf-8\r\n\r\n${text}\r\n`;
        const made = repair(raw);
        expect(Math.max(...linesOf(made))).toBeLessThanOrEqual(998);
        const said = async (octets: Buffer) => (await simpleParser(octets)).text ?? "";
        expect((await said(made)).trimEnd()).toBe((await said(Buffer.from(raw))).trimEnd());
        expect(repair(made)).toBe(made);
      },
    ),
    { numRuns: 150 },
  );
});
