import fc from "fast-check";
import { simpleParser } from "mailparser";
import { describe, expect, test } from "vitest";
import { footerBody } from "./footerBody";
import { splitMessage } from "./splitMessage";

const FOOTER = "Copperwheel Circus School\nGrüße aus dem Ring";
const bytes = (text: string): Uint8Array => Buffer.from(text, "utf8");
const added = (raw: Uint8Array, footer = FOOTER): Buffer => {
  const split = splitMessage(raw);
  const { fields, body } = footerBody(raw, split, footer, "ring-1");
  const kept = split.fields
    .filter(({ name }) => !name.startsWith("content-") && name !== "mime-version")
    .map(({ raw: field }) => field);
  return Buffer.concat([
    Buffer.from(`${[...kept, "MIME-Version: 1.0", ...fields].join("\r\n")}\r\n\r\n`, "latin1"),
    body,
  ]);
};

describe("where a footer goes", () => {
  const PLAIN = "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n";
  const ASCII = "The office";
  /** The content fields and the body of a mail with a footer. */
  const footed = (header: string, body: string, footer = FOOTER): [string[], string] => {
    const raw = bytes(`Subject: x\r\n${header}\r\n${body}`);
    const made = footerBody(raw, splitMessage(raw), footer, "ring-1");
    return [made.fields, Buffer.from(made.body).toString("utf8")];
  };

  test.each([
    ["in eight bits", PLAIN, FOOTER],
    ["in ASCII, by its field", "Content-Type: text/plain; charset=us-ascii\r\n", ASCII],
    ["in ASCII, as nothing else is said", "", ASCII],
    ["without a charset", "Content-Type: text/plain\r\n", ASCII],
    ["in UTF-8 but seven bits", 'Content-Type: text/plain; Charset = "utf-8"\r\n', ASCII],
    [
      "in seven bits, said so",
      "Content-Type: text/plain\r\nContent-Transfer-Encoding: 7BIT\r\n",
      ASCII,
    ],
  ])("at the end of a text %s, whose fields stay", (_, header, footer) => {
    const [fields, body] = footed(header, "Hello.\r\n", footer);
    expect(fields).toEqual(header.split("\r\n").filter((line) => line !== ""));
    expect(body).toBe(`Hello.\r\n\r\n-- \r\n${footer.replaceAll("\n", "\r\n")}\r\n`);
  });

  test.each([
    ["a text of flowing lines", "Content-Type: text/plain; format=flowed\r\n", ASCII],
    ["flowing lines, spaced", "Content-Type: text/plain; format = flowed\r\n", ASCII],
    ["ASCII, where the footer has other letters", "Content-Type: text/plain\r\n", FOOTER],
    [
      "UTF-8 in seven bits, where the footer has other letters",
      "Content-Type: text/plain; charset=utf-8\r\n",
      FOOTER,
    ],
    ["a charset of its own", "Content-Type: text/plain; charset=koi8-r\r\n", ASCII],
    [
      "a charset of its own in eight bits",
      "Content-Type: text/plain; charset=koi8-r\r\nContent-Transfer-Encoding: 8bit\r\n",
      FOOTER,
    ],
    [
      "HTML",
      "Content-Type: text/html; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n",
      ASCII,
    ],
    ["encoded text", "Content-Type: text/plain\r\nContent-Transfer-Encoding: base64\r\n", ASCII],
    [
      "encoded text in UTF-8",
      "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n",
      ASCII,
    ],
  ])("in a part of its own after %s", (_, header, footer) => {
    const [fields, body] = footed(header, "Hello.\r\n", footer);
    expect(fields).toEqual(['Content-Type: multipart/mixed; boundary="ring-1"']);
    expect(body.startsWith(`--ring-1\r\n${header}\r\nHello.\r\n\r\n--ring-1\r\n`)).toBe(true);
    expect(body.endsWith("\r\n--ring-1--\r\n")).toBe(true);
  });

  test("in a part after a mail that says nothing of itself, which is ASCII then", () => {
    const [, body] = footed("", "Hello.\r\n");
    expect(body).toMatch(
      /^--ring-1\r\nContent-Type: text\/plain; charset=us-ascii\r\n\r\nHello\.\r\n\r\n--ring-1\r\n/,
    );
  });

  test.each([
    ["that ends within a line", "Hello.", "Hello.\r\n\r\n-- \r\nThe office\r\n"],
    ["that is empty", "", "\r\n-- \r\nThe office\r\n"],
  ])("on a line of its own after a text %s", (_, body, whole) =>
    expect(footed(PLAIN, body, ASCII)[1]).toBe(whole),
  );

  test("in lines of at most 76 characters, with the line ends of mail", () => {
    const [, body] = footed("", "Hello.\r\n", `Grüße\r\n${"ring ".repeat(40)}`);
    const encoded =
      body
        .split("\r\n\r\n")
        .at(-1)
        ?.replace(/\r\n--ring-1--\r\n$/, "") ?? "";
    const lines = encoded.split("\r\n");
    expect(lines.length).toBeGreaterThan(3);
    expect(lines.slice(0, -1).every(({ length }) => length === 76)).toBe(true);
    expect(Buffer.from(encoded, "base64").toString()).toBe(`Grüße\r\n${"ring ".repeat(40)}`);
  });
});

describe("a footer", () => {
  test("stands at the end of a plain text", async () => {
    const raw = bytes(
      "Subject: x\r\nContent-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n\r\nHällo.\r\n",
    );
    const parsed = await simpleParser(added(raw));
    expect(parsed.text?.trim()).toBe(
      "Hällo.\n\n-- \nCopperwheel Circus School\nGrüße aus dem Ring",
    );
    expect(parsed.attachments).toEqual([]);
  });

  test.each([
    [
      "an encoded text",
      "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: base64\r\n\r\nSMOkbGxvLg==\r\n",
    ],
    [
      "a text in another charset",
      "Content-Type: text/plain; charset=iso-8859-1\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\nH=E4llo.\r\n",
    ],
    [
      "a mail of parts",
      "Content-Type: multipart/alternative; boundary=in\r\n\r\n--in\r\nContent-Type: text/plain; charset=utf-8\r\n\r\nHällo.\r\n--in\r\nContent-Type: text/html; charset=utf-8\r\n\r\n<p>Hällo.</p>\r\n--in--\r\n",
    ],
  ])("is a part of its own after %s, which stays whole", async (_what, rest) => {
    const raw = bytes(`Subject: x\r\n${rest}`);
    const whole = added(raw);
    expect(whole.includes(Buffer.from(raw.subarray(splitMessage(raw).bodyAt)))).toBe(true);
    const parsed = await simpleParser(whole);
    expect(parsed.text).toContain("Hällo.");
    expect(parsed.text).toContain("Grüße aus dem Ring");
  });

  test("leaves a signed mail whole within its part", () => {
    const signed =
      'Content-Type: multipart/signed; boundary=s; protocol="application/pgp-signature"\r\n\r\n--s\r\nContent-Type: text/plain\r\n\r\nx\r\n--s\r\nContent-Type: application/pgp-signature\r\n\r\nsig\r\n--s--\r\n';
    expect(added(bytes(`Subject: x\r\n${signed}`)).toString("latin1")).toContain(signed);
  });

  test("is read again after any text", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.string({ unit: "grapheme", maxLength: 60 }),
        fc.string({ unit: "grapheme", minLength: 1, maxLength: 60 }),
        async (text, footer) => {
          const raw = bytes(
            `Subject: x\r\nContent-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: base64\r\n\r\n${Buffer.from(text).toString("base64")}\r\n`,
          );
          const { text: read = "" } = await simpleParser(added(raw, footer));
          expect(read.replace(/\s/g, "")).toContain(footer.replace(/\s/g, ""));
        },
      ),
      { numRuns: 60 },
    );
  });
});
