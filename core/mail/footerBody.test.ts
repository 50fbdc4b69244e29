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
